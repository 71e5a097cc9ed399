import { useRef, useState } from "react";
import type { Bench } from "../../api/bench";
import type { Edit } from "../../api/generated/Edit";
import { moveOf, withUnit } from "../../ui/length";

interface Lie {
  x: number;
  y: number;
  turn: number;
}

const edits = (now: Lie, was: Lie): Edit[] => {
  const set = (name: string, value: number, old: number): Edit[] =>
    value === old ? [] : [{ kind: "set-measure", name, value }];
  return [
    ...set("shift-x", now.x, was.x),
    ...set("shift-y", now.y, was.y),
    ...set("turn", now.turn, was.turn),
  ];
};
const tenths = (v: number) => Math.round(v * 10) / 10;

/** Moves and turns the drawing on its plate: a cross in the drawing's middle, and a grip beside it. In the plan's world. */
export function PlaceHandle({ bench, k, flip }: { bench: Bench; k: number; flip: number }) {
  const at = bench.result.drawing_at;
  const value = (name: string) => bench.design.result.measures.find((m) => m.name === name)?.value ?? 0;
  const was: Lie = { x: value("shift-x"), y: value("shift-y"), turn: value("turn") };
  const [live, setLive] = useState<Lie | null>(null);
  const drag = useRef<{ x: number; y: number; from: Lie } | null>(null);
  if (!at) return null;
  const now = live ?? was;
  const [x, y] = [at[0] + now.x, -(at[1] + now.y)];
  const reach = 46 / k;
  const angle = (-now.turn * Math.PI) / 180;
  const grip = [x + reach * Math.cos(angle), y + reach * Math.sin(angle)] as const;
  const preview = (to: Lie) => {
    setLive(to);
    bench.preview(edits(to, was));
  };
  const done = () => {
    drag.current = null;
    if (live) bench.change(edits(live, was));
    setLive(null);
  };
  const unit = bench.design.document.unit;
  const cancel = () => {
    drag.current = null;
    setLive(null);
    bench.settle();
  };
  const press = (e: React.PointerEvent) => {
    e.currentTarget.setPointerCapture(e.pointerId);
    drag.current = { x: e.clientX, y: e.clientY, from: was };
  };
  return (
    <g stroke="var(--glaze)" fill="var(--tile)" data-testid="place">
      <path d={`M${x} ${y}L${grip[0]} ${grip[1]}`} strokeDasharray="3 3" vectorEffect="non-scaling-stroke" />
      <g
        role="slider"
        tabIndex={0}
        aria-label="Place of the drawing"
        aria-valuenow={now.x}
        aria-valuetext={`${withUnit(now.x, unit)} to the right, ${withUnit(now.y, unit)} up`}
        className="cursor-move touch-none outline-none focus-visible:[stroke-width:3]"
        onPointerDown={press}
        onPointerMove={(e) => {
          const d = drag.current;
          if (!d) return;
          const by = [((e.clientX - d.x) / k) * flip, -(e.clientY - d.y) / k] as const;
          preview({ ...d.from, x: tenths(d.from.x + by[0]), y: tenths(d.from.y + by[1]) });
        }}
        onPointerUp={done}
        onPointerCancel={cancel}
        onKeyDown={(e) => {
          const move = moveOf(e);
          if (!move) return;
          e.preventDefault();
          const to = { ...was, x: tenths(was.x + move[0] * flip), y: tenths(was.y - move[1]) };
          bench.change(edits(to, was));
        }}
      >
        <circle cx={x} cy={y} r={9 / k} fillOpacity={0.85} vectorEffect="non-scaling-stroke" />
        <path
          d={`M${x - 13 / k} ${y}h${26 / k}M${x} ${y - 13 / k}v${26 / k}`}
          vectorEffect="non-scaling-stroke"
        />
      </g>
      <circle
        role="slider"
        tabIndex={0}
        aria-label="Turn of the drawing"
        aria-valuemin={-360}
        aria-valuemax={360}
        aria-valuenow={now.turn}
        aria-valuetext={`${now.turn} degrees`}
        cx={grip[0]}
        cy={grip[1]}
        r={6 / k}
        vectorEffect="non-scaling-stroke"
        className="cursor-grab touch-none outline-none focus-visible:[stroke-width:3]"
        onPointerDown={press}
        onPointerMove={(e) => {
          const world = (e.currentTarget.parentNode as SVGGElement | null)?.getScreenCTM();
          if (!drag.current || !world) return;
          const p = new DOMPoint(e.clientX, e.clientY).matrixTransform(world.inverse());
          const degrees = (-Math.atan2(p.y - y, p.x - x) * 180) / Math.PI;
          const step = e.shiftKey ? 15 : 1;
          preview({ ...was, turn: Math.round(degrees / step) * step });
        }}
        onPointerUp={done}
        onPointerCancel={cancel}
        onKeyDown={(e) => {
          const move = moveOf(e);
          if (!move) return;
          e.preventDefault();
          bench.change(edits({ ...was, turn: Math.round(was.turn + move[0] - move[1]) }, was));
        }}
      />
    </g>
  );
}
