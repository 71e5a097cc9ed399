import type { Bench } from "../../api/bench";
import type { Edit } from "../../api/generated/Edit";
import type { MmPoint } from "../../api/generated/MmPoint";
import { moveOf, withUnit } from "../../ui/length";
import { REACH } from "../../ui/reach";
import { tenths, useDrag } from "./drag";

const edits = ([x, y]: MmPoint): Edit[] => [
  { kind: "set-measure", name: "hole-at", value: "middle" },
  { kind: "set-measure", name: "hole-x", value: x },
  { kind: "set-measure", name: "hole-y", value: y },
];

/** Moves the hole or loop that something hangs by; from then on its place is measured from the object's middle. In the plan's world. */
export function HoleHandle({ bench, k, flip }: { bench: Bench; k: number; flip: number }) {
  const hung = bench.result.hung;
  const was: MmPoint = hung
    ? [tenths(hung.at[0] - hung.middle[0]), tenths(hung.at[1] - hung.middle[1])]
    : [0, 0];
  const { now, handle, save } = useDrag(bench, was, edits);
  if (!hung) return null;
  const [x, y] = [hung.middle[0] + now[0], -(hung.middle[1] + now[1])];
  const unit = bench.design.document.unit;
  const r = Math.max(hung.across / 2, Math.max(7, REACH) / k);
  return (
    <g
      role="slider"
      tabIndex={0}
      aria-label="Place of the hole"
      aria-valuenow={now[0]}
      aria-valuetext={`${withUnit(now[0], unit)} right of the middle, ${withUnit(now[1], unit)} above it`}
      data-testid="hole"
      stroke="var(--glaze)"
      fill="var(--tile)"
      className="cursor-move touch-none outline-none focus-visible:[stroke-width:3]"
      {...handle(([x, y], dx, dy) => [tenths(x + (dx / k) * flip), tenths(y - dy / k)])}
      onKeyDown={(e) => {
        const move = moveOf(e);
        if (!move) return;
        e.preventDefault();
        save([tenths(now[0] + move[0] * flip), tenths(now[1] - move[1])]);
      }}
    >
      <circle cx={x} cy={y} r={r} fillOpacity={0.6} strokeDasharray="4 2" vectorEffect="non-scaling-stroke" />
      <path
        d={`M${x - 5 / k} ${y}h${10 / k}M${x} ${y - 5 / k}v${10 / k}`}
        vectorEffect="non-scaling-stroke"
      />
    </g>
  );
}
