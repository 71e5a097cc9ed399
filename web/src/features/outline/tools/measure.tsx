import { useState } from "react";
import { withUnit } from "../../../ui/length";
import type { Px } from "../../artwork/frame";
import { Tray } from "../../artwork/tools/tray";
import { Dimension } from "../../views/drawing";
import { distance } from "../lines";
import { Catches } from "./catches-menu";
import type { ToolParts, ToolProps } from "./tool";

/** Distance of two places; nodes and edges near by are caught. */
export function useMeasure(p: ToolProps): ToolParts {
  const [ends, setEnds] = useState<Px[]>([]);
  const [hover, setHover] = useState<Px | null>(null);
  const unit = p.bench.design.document.unit;
  const mm = p.bench.result.outline?.mm_per_px ?? 1;
  const [a, b] = [ends[0], ends[1] ?? hover];
  const words = a && b ? withUnit(distance(a, b) * mm, unit, 2) : "";
  const across =
    a && b
      ? `, ${withUnit(Math.abs(a[0] - b[0]) * mm, unit, 2)} across, ${withUnit(Math.abs(a[1] - b[1]) * mm, unit, 2)} up`
      : "";
  return {
    events: {
      isCatching: true,
      onDown: (e) => setEnds(ends.length === 1 ? [...ends, e.at] : [e.at]),
      onMove: (e) => setHover(e.at),
    },
    overlay: (view) =>
      a && b ? (
        <g pointerEvents="none" data-measured={words}>
          <Dimension from={view.toScreen(a)} to={view.toScreen(b)} text={words} isLive />
        </g>
      ) : null,
    tray: (
      <Tray words={words ? `${words}${across}` : "Click two places."} onDone={p.onDone}>
        <Catches />
      </Tray>
    ),
  };
}
