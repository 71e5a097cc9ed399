import { useRef, useState } from "react";
import type { Bench } from "../../../api/bench";
import { Button } from "../../../ui/button";
import type { BoardEvents, BoardView } from "../board";
import { degreesToStraight, type Px } from "../frame";
import { NumberField, Tray } from "./tray";

/** Turns and flips; a line drawn along what should be level or upright gives the degrees. */
export function useTurn(bench: Bench, onDone: () => void) {
  const { degrees } = bench.design.document.prepare;
  const [line, setLine] = useState<[Px, Px] | null>(null);
  const from = useRef<Px | null>(null);
  const turn = (to: number) =>
    bench.change([{ kind: "set-degrees", degrees: Math.round(Math.max(-45, Math.min(45, to)) * 100) / 100 }]);
  const events: BoardEvents = {
    onDown: (p) => {
      from.current = p;
    },
    onMove: (p) => from.current && setLine([from.current, p]),
    onCancel: () => {
      from.current = null;
      setLine(null);
    },
    onUp: (p) => {
      const a = from.current;
      from.current = null;
      setLine(null);
      if (a && Math.hypot(p[0] - a[0], p[1] - a[1]) > 10) turn(degrees + degreesToStraight(a, p));
    },
  };
  const overlay = (view: BoardView) => {
    if (!line) return null;
    const [a, b] = line.map(view.toScreen) as [Px, Px];
    return (
      <svg className="pointer-events-none absolute inset-0 size-full" aria-hidden="true">
        <path d={`M${a[0]} ${a[1]}L${b[0]} ${b[1]}`} stroke="#fff" strokeWidth={4} />
        <path
          d={`M${a[0]} ${a[1]}L${b[0]} ${b[1]}`}
          stroke="#b4512b"
          strokeWidth={2}
          strokeDasharray="10 4 2 4"
        />
      </svg>
    );
  };
  const tray = (
    <Tray words="Draw a line along what should be level or upright." onDone={onDone}>
      <NumberField label="turned by" unit="°" min={-45} max={45} value={degrees} onChange={turn} />
      <Button className="text-xs" onClick={() => bench.change([{ kind: "turn", quarters: -1 }])}>
        Quarter left
      </Button>
      <Button className="text-xs" onClick={() => bench.change([{ kind: "turn", quarters: 1 }])}>
        Quarter right
      </Button>
      <Button className="text-xs" onClick={() => bench.change([{ kind: "flip", axis: "width" }])}>
        Flip left and right
      </Button>
      <Button className="text-xs" onClick={() => bench.change([{ kind: "flip", axis: "height" }])}>
        Flip top and bottom
      </Button>
    </Tray>
  );
  return { events, overlay, tray };
}
