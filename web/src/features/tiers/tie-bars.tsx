import { useRef, useState } from "react";
import type { Bench } from "../../api/bench";
import type { Bar } from "../../api/generated/Bar";
import { stepsOf } from "../../ui/length";

/** The tie bars over the plan: ends are dragged or nudged, Delete takes a bar away. The first touch makes them the maker's
 * own. In the plan's world: millimetres as the picture reads, y down. */
export function TieBars({ bench, k, flip }: { bench: Bench; k: number; flip: number }) {
  const { result } = bench;
  const o = result.outline;
  const drag = useRef<{ x: number; y: number; at: [number, number]; bars: Bar[] } | null>(null);
  const [live, setLive] = useState<Bar[] | null>(null);
  if (!o || result.bars.length === 0) return null;
  const bars = live ?? result.bars;
  const mm = (p: readonly [number, number]) =>
    [(p[0] - o.origin[0]) * o.mm_per_px, (p[1] - o.origin[1]) * o.mm_per_px] as const;
  const put = (all: Bar[]) => [{ kind: "set-bars" as const, bars: all }];
  const moved = (bar: number, end: "from" | "to", at: [number, number]) =>
    result.bars.map((b, i) => (i === bar ? { ...b, [end]: at } : b));
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
                onPointerDown={(e) => {
                  e.currentTarget.setPointerCapture(e.pointerId);
                  drag.current = { x: e.clientX, y: e.clientY, at: b[end], bars: result.bars };
                }}
                onPointerMove={(e) => {
                  const d = drag.current;
                  if (!d) return;
                  const px = 1 / (k * o.mm_per_px);
                  const to: [number, number] = [
                    d.at[0] + (e.clientX - d.x) * px * flip,
                    d.at[1] + (e.clientY - d.y) * px,
                  ];
                  const all = d.bars.map((bar, n) => (n === i ? { ...bar, [end]: to } : bar));
                  setLive(all);
                  bench.preview(put(all));
                }}
                onPointerUp={() => {
                  drag.current = null;
                  if (live) bench.change(put(live));
                  setLive(null);
                }}
                onPointerCancel={() => {
                  drag.current = null;
                  setLive(null);
                  bench.settle();
                }}
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
                    bench.change(put(result.bars.filter((_, n) => n !== i)));
                  } else if (way) {
                    e.preventDefault();
                    const scale = by * Math.max(1, Math.abs(stepsOf(e)) || 1);
                    bench.change(
                      put(moved(i, end, [b[end][0] + way[0] * scale, b[end][1] + way[1] * scale])),
                    );
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

/** Adds a bar across the middle, to be dragged where it is wanted; or lets bars be found again. */
export function barActions(bench: Bench) {
  const o = bench.result.outline;
  const own = bench.design.document.bars;
  return {
    isOwn: own !== null,
    add: () => {
      if (!o) return;
      const reach = o.width / 4 / o.mm_per_px;
      const bar: Bar = { from: [o.origin[0] - reach, o.origin[1]], to: [o.origin[0] + reach, o.origin[1]] };
      bench.change([{ kind: "set-bars", bars: [...bench.result.bars, bar] }]);
    },
    again: () => bench.change([{ kind: "set-bars", bars: null }]),
  };
}
