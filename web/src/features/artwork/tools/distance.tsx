import { useRef, useState } from "react";
import type { Bench } from "../../../api/bench";
import { MeasureField } from "../../../ui/measure-field";
import type { BoardEvents, BoardView } from "../board";
import type { Px } from "../frame";
import { Handle } from "./handle";
import { Tray } from "./tray";

/** Two points whose distance is known say how large the picture is. */
export function useDistance(bench: Bench, onDone: () => void) {
  const [x, y, w, h] = bench.result.picture?.part ?? [0, 0, 1, 1];
  const [ends, setEnds] = useState<[Px, Px]>([
    [x + w * 0.25, y + h * 0.5],
    [x + w * 0.75, y + h * 0.5],
  ]);
  const isDown = useRef(false);
  const [a, b] = ends;
  const px = Math.hypot(a[0] - b[0], a[1] - b[1]);
  const mm = px * (bench.result.outline?.mm_per_px ?? 1);
  const unit = bench.design.document.unit;
  const events: BoardEvents = {
    onDown: (_, near) => {
      isDown.current = true;
      setEnds([near, near]);
    },
    onMove: (_, near) => isDown.current && setEnds(([from]) => [from, near]),
    onUp: (_, near) => {
      isDown.current = false;
      setEnds(([from]) => [from, near]);
    },
    onCancel: () => {
      isDown.current = false;
    },
  };
  const overlay = (view: BoardView) => {
    const [p, q] = [view.toScreen(a), view.toScreen(b)];
    return (
      <>
        <svg className="pointer-events-none absolute inset-0 size-full" aria-hidden="true">
          <path d={`M${p[0]} ${p[1]}L${q[0]} ${q[1]}`} stroke="#fff" strokeWidth={4} />
          <path d={`M${p[0]} ${p[1]}L${q[0]} ${q[1]}`} stroke="#b4512b" strokeWidth={1.6} />
        </svg>
        <Handle view={view} at={a} label="First point" catches onMove={(to) => setEnds([to, b])} />
        <Handle view={view} at={b} label="Second point" catches onMove={(to) => setEnds([a, to])} />
      </>
    );
  };
  const tray = (
    <Tray words="Drag from one point to another whose distance you know, and type it." onDone={onDone}>
      <div className="w-64">
        <MeasureField
          label="True distance"
          meaning="How far the two points are apart on the real thing"
          value={mm}
          unit={unit}
          step={1}
          onCommit={(value) => bench.commit([{ kind: "set-distance", from: a, to: b, value }])}
        />
      </div>
    </Tray>
  );
  return { events, overlay, tray };
}
