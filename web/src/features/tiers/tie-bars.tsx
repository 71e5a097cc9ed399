import { useEffect, useRef, useState } from "react";
import type { Bench } from "../../api/bench";
import type { Bar } from "../../api/generated/Bar";
import type { MmPoint } from "../../api/generated/MmPoint";
import type { PxPoint } from "../../api/generated/PxPoint";
import { useInterface } from "../../state/interface";
import { stepsOf } from "../../ui/length";
import { distance } from "../outline/lines";
import { crossings, onLine } from "../views/crossings";
import { useDrag } from "./drag";

/** The tie bars over the plan: ends are dragged or nudged, Delete takes a bar away. The first touch makes them the maker's
 * own. In the plan's world: millimetres as the picture reads, y down. */
export function TieBars({ bench, k, flip }: { bench: Bench; k: number; flip: number }) {
  const { result } = bench;
  const o = result.outline;
  const put = (all: Bar[]) => [{ kind: "set-bars" as const, bars: all }];
  const { now: bars, handle, save } = useDrag(bench, result.bars, put);
  if (!o || bars.length === 0) return null;
  const mm = (p: PxPoint): MmPoint => [
    (p[0] - o.origin[0]) * o.mm_per_px,
    (p[1] - o.origin[1]) * o.mm_per_px,
  ];
  const moved = (bar: number, end: "from" | "to", at: PxPoint) =>
    bars.map((b, i) => (i === bar ? { ...b, [end]: at } : b));
  return (
    <g>
      {bars.map((b, i) => {
        const ends = [
          ["from", mm(b.from)],
          ["to", mm(b.to)],
        ] as const;
        const [[, p], [, q]] = ends;
        return (
          // biome-ignore lint/suspicious/noArrayIndexKey: bars have no other name
          <g key={i} data-bar={i}>
            <path
              d={`M${p[0]} ${p[1]}L${q[0]} ${q[1]}`}
              stroke="var(--glaze)"
              strokeWidth="1.4"
              strokeDasharray="6 3"
              vectorEffect="non-scaling-stroke"
            />
            {ends.map(([end, at]) => (
              <circle
                key={end}
                role="slider"
                tabIndex={0}
                aria-label={`Tie bar ${i + 1}, ${end === "from" ? "first" : "second"} end`}
                aria-valuenow={0}
                aria-valuetext="Arrow keys move it, Delete takes the bar away"
                cx={at[0]}
                cy={at[1]}
                r={4.5 / k}
                fill="var(--tile)"
                stroke="var(--glaze)"
                strokeWidth="1.8"
                vectorEffect="non-scaling-stroke"
                className="cursor-move touch-none outline-none focus-visible:[stroke-width:3.5]"
                {...handle((all, dx, dy) => {
                  const px = 1 / (k * o.mm_per_px);
                  return all.map((bar, n) =>
                    n === i ? { ...bar, [end]: [bar[end][0] + dx * px * flip, bar[end][1] + dy * px] } : bar,
                  );
                })}
                onKeyDown={(e) => {
                  const by = 0.5 / o.mm_per_px;
                  const ways: Record<string, [number, number]> = {
                    ArrowLeft: [-flip, 0],
                    ArrowRight: [flip, 0],
                    ArrowUp: [0, -1],
                    ArrowDown: [0, 1],
                  };
                  const way = ways[e.key];
                  if (e.key === "Delete" || e.key === "Backspace") {
                    e.preventDefault();
                    save(bars.filter((_, n) => n !== i));
                  } else if (way) {
                    e.preventDefault();
                    const scale = by * Math.max(1, Math.abs(stepsOf(e)) || 1);
                    save(moved(i, end, [b[end][0] + way[0] * scale, b[end][1] + way[1] * scale]));
                  }
                }}
              />
            ))}
          </g>
        );
      })}
    </g>
  );
}

/** Adds bars, or lets them be found again. */
export function barActions(bench: Bench) {
  const { result } = bench;
  const o = result.outline;
  const px = (p: MmPoint): PxPoint =>
    o ? [o.origin[0] + p[0] / o.mm_per_px, o.origin[1] + p[1] / o.mm_per_px] : [p[0], p[1]];
  const add = (from: MmPoint, to: MmPoint) =>
    bench.change([{ kind: "set-bars", bars: [...result.bars, { from: px(from), to: px(to) }] }]);
  return {
    isOwn: bench.design.document.bars !== null,
    /** Between two places of the plan's world. */
    add,
    /** Along the section line, from edge to edge. */
    through: () => {
      const { section, turned } = useInterface.getState();
      const ends = across(result.edge_path, result.is_mirrored, section, turned);
      if (ends) add(...ends);
    },
    again: () => bench.change([{ kind: "set-bars", bars: null }]),
  };
}

/** Where the section line enters and leaves an edge, in the plan's world. */
export function across(
  edge: string,
  isMirrored: boolean,
  section: number,
  turned: number,
): [MmPoint, MmPoint] | null {
  const met = crossings(edge, isMirrored, section, turned);
  if (met.length < 2) return null;
  return [onLine(Math.min(...met), section, turned), onLine(Math.max(...met), section, turned)];
}

/** Lies over the plan while a bar is drawn from anywhere to anywhere. In the plan's world. */
export function BarDrawing({ bench, onDone }: { bench: Bench; onDone: () => void }) {
  const [line, setLine] = useState<[MmPoint, MmPoint] | null>(null);
  const world = useRef<SVGGElement | null>(null);
  const at = (e: React.PointerEvent): MmPoint => {
    const p = new DOMPoint(e.clientX, e.clientY).matrixTransform(world.current?.getScreenCTM()?.inverse());
    return [p.x, p.y];
  };
  useEffect(() => {
    const press = (e: KeyboardEvent) => {
      if (e.key !== "Escape") return;
      e.preventDefault();
      onDone();
    };
    addEventListener("keydown", press, true);
    return () => removeEventListener("keydown", press, true);
  }, [onDone]);
  return (
    <g ref={world}>
      <rect
        x={-1000}
        y={-1000}
        width={2000}
        height={2000}
        fill="transparent"
        data-testid="bar-drawing"
        className="cursor-crosshair touch-none"
        onPointerDown={(e) => {
          e.currentTarget.setPointerCapture(e.pointerId);
          setLine([at(e), at(e)]);
        }}
        onPointerMove={(e) => line && setLine([line[0], at(e)])}
        onPointerUp={(e) => {
          if (!line) return;
          const to = at(e);
          // A click alone draws nothing.
          if (distance(line[0], to) > 0.5) barActions(bench).add(line[0], to);
          onDone();
        }}
        onPointerCancel={() => setLine(null)}
      />
      {line && (
        <path
          d={`M${line[0].join(" ")}L${line[1].join(" ")}`}
          stroke="var(--glaze)"
          strokeWidth="2"
          vectorEffect="non-scaling-stroke"
          pointerEvents="none"
        />
      )}
    </g>
  );
}
