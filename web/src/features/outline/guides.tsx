import { useState } from "react";
import type { Bench } from "../../api/bench";
import type { Guide } from "../../api/generated/Guide";
import { stepsOf } from "../../ui/length";
import { local } from "../../ui/numbers";
import { REACH } from "../../ui/reach";
import type { Px } from "../artwork/frame";
import type { CanvasView } from "./canvas-view";

/** Width of a ruler on the screen. */
export const RULER = 18;

type ToPicture = (e: { clientX: number; clientY: number }) => Px;

function roundStep(pxPerMm: number): number {
  return [0.1, 0.5, 1, 5, 10, 50, 100].find((s) => s * pxPerMm >= 5) ?? 100;
}

/** Rulers in the design's unit from the object's middle; a guide is dragged off them. */
export function Rulers(p: { bench: Bench; view: CanvasView; mm: number; origin: Px; toPicture: ToPicture }) {
  return (
    <>
      <Ruler {...p} isUpright={false} />
      <Ruler {...p} isUpright />
    </>
  );
}

function Ruler(p: {
  bench: Bench;
  view: CanvasView;
  mm: number;
  origin: Px;
  toPicture: ToPicture;
  isUpright: boolean;
}) {
  const { view, isUpright, bench } = p;
  const [live, setLive] = useState<number | null>(null);
  const one = bench.design.document.unit === "in" ? 25.4 : 1;
  const scale = (view.y / p.mm) * one;
  const step = roundStep(scale);
  const start = view.toScreen(p.origin)[isUpright ? 1 : 0];
  const length = isUpright ? view.height : view.width;
  const way = isUpright ? -1 : Math.sign(view.x);
  const [from, to] = [-start, length - start].map((v) => v / scale / step);
  const low = Math.max(Math.ceil(Math.min(from ?? 0, to ?? 0)), -5000);
  const marks = Array.from(
    { length: Math.min(600, Math.floor(Math.abs((to ?? 0) - (from ?? 0))) + 1) },
    (_, i) => low + i,
  );
  // A guide that runs across comes off the upper ruler, one that runs up off the left one.
  const guideIsUpright = isUpright;
  const add = (at: number) => {
    if (!Number.isFinite(at)) return;
    bench.change([
      { kind: "set-guides", guides: [...bench.design.document.guides, { is_upright: guideIsUpright, at }] },
    ]);
  };
  const axis = guideIsUpright ? 0 : 1;
  return (
    <>
      <button
        type="button"
        data-handle
        aria-label={guideIsUpright ? "Left ruler: add an upright guide" : "Upper ruler: add a level guide"}
        className="absolute top-0 left-0 block cursor-grab touch-none overflow-hidden bg-sunk outline-glaze"
        style={{ width: isUpright ? RULER : length, height: isUpright ? length : RULER }}
        onPointerDown={(e) => {
          e.currentTarget.setPointerCapture(e.pointerId);
          setLive(p.toPicture(e)[axis]);
        }}
        onPointerMove={(e) => live !== null && setLive(p.toPicture(e)[axis])}
        onPointerUp={(e) => {
          const r = e.currentTarget.getBoundingClientRect();
          const off = isUpright ? e.clientX - r.left : e.clientY - r.top;
          if (live !== null && off > RULER) add(live);
          setLive(null);
        }}
        onKeyDown={(e) => {
          if (e.key !== "Enter" && e.key !== " ") return;
          e.preventDefault();
          add(p.origin[axis]);
        }}
      >
        <svg className="block size-full" aria-hidden="true">
          {marks.map((n) => {
            const at = start + n * step * scale;
            const isLong = n % 10 === 0;
            const size = isLong ? RULER : n % 5 === 0 ? 7 : 4;
            return (
              <g key={n} className="text-soft">
                <path
                  d={isUpright ? `M${RULER} ${at}h${-size}` : `M${at} ${RULER}v${-size}`}
                  stroke="currentColor"
                  strokeWidth={0.8}
                />
                {isLong && (
                  <text
                    transform={isUpright ? `translate(8 ${at + 2}) rotate(-90)` : `translate(${at + 2} 9)`}
                    fontSize={8.5}
                    fill="currentColor"
                    textAnchor={isUpright ? "end" : "start"}
                  >
                    {local(String(Number((n * step * way).toFixed(1)) + 0))}
                  </text>
                )}
              </g>
            );
          })}
        </svg>
      </button>
      {live !== null && <GuideLine view={view} guide={{ is_upright: guideIsUpright, at: live }} />}
    </>
  );
}

function GuideLine({ view, guide }: { view: CanvasView; guide: Guide }) {
  const [x, y] = view.toScreen([guide.at, guide.at]);
  return (
    <span
      className="pointer-events-none absolute bg-glaze"
      style={
        guide.is_upright ? { left: x, top: 0, bottom: 0, width: 1 } : { top: y, left: 0, right: 0, height: 1 }
      }
    />
  );
}

/** Guides: dragged, moved by arrow keys in millimetres, taken off by Delete or by dragging them back onto a ruler. */
export function Guides(p: { bench: Bench; view: CanvasView; toPicture: ToPicture }) {
  const { guides } = p.bench.design.document;
  const [live, setLive] = useState<{ index: number; at: number } | null>(null);
  const mm = p.bench.result.outline?.mm_per_px ?? 1;
  const set = (next: Guide[]) => p.bench.change([{ kind: "set-guides", guides: next }]);
  return guides.map((g, i) => {
    const at = live?.index === i ? live.at : g.at;
    const [x, y] = p.view.toScreen([at, at]);
    const axis = g.is_upright ? 0 : 1;
    const d = g.is_upright ? `M${x} ${RULER}V${p.view.height}` : `M${RULER} ${y}H${p.view.width}`;
    return (
      <g
        // biome-ignore lint/suspicious/noArrayIndexKey: guides have no other name
        key={i}
        role="slider"
        tabIndex={0}
        data-handle
        data-guide={g.is_upright ? "upright" : "level"}
        aria-label={g.is_upright ? "Upright guide" : "Level guide"}
        aria-valuenow={Number((at * mm).toFixed(2))}
        className={`touch-none text-glaze outline-none focus-visible:text-terracotta ${g.is_upright ? "cursor-ew-resize" : "cursor-ns-resize"}`}
        onPointerDown={(e) => {
          e.currentTarget.setPointerCapture(e.pointerId);
          setLive({ index: i, at: g.at });
        }}
        onPointerMove={(e) => live?.index === i && setLive({ index: i, at: p.toPicture(e)[axis] })}
        onPointerUp={() => {
          if (!live) return;
          const isOff = (g.is_upright ? x : y) < RULER;
          set(
            isOff
              ? guides.filter((_, k) => k !== i)
              : guides.map((q, k) => (k === i ? { ...q, at: live.at } : q)),
          );
          setLive(null);
        }}
        onKeyDown={(e) => {
          const steps = stepsOf(e);
          if (e.key === "Delete" || e.key === "Backspace") set(guides.filter((_, k) => k !== i));
          else if (steps !== 0) {
            const by = (g.is_upright ? steps : -steps) / mm;
            set(guides.map((q, k) => (k === i ? { ...q, at: q.at + by } : q)));
          } else return;
          e.preventDefault();
        }}
      >
        <path d={d} stroke="transparent" strokeWidth={Math.max(9, 2 * REACH)} />
        <path d={d} stroke="currentColor" strokeWidth={1} strokeDasharray="10 3" />
      </g>
    );
  });
}
