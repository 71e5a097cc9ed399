import type { Bench } from "../../api/bench";
import { moveOf, withUnit } from "../../ui/length";
import { useDrag } from "../tiers/drag";
import { lieEdits, lieOf, movedUnder, plateAt } from "../tiers/lie";
import type { CanvasView } from "./canvas-view";

/** Screen pixels between the grip and the border of the view: beside the rulers. */
const ROOM = 36;

/**
 * The plate that the drawing is laid on, as it lies round the drawing, with a grip on its rim: the drawing may be moved and
 * turned on it, and here the drawing stands still, so the plate is moved and turned the other way.
 */
export function Plate({ bench, view, isHeld }: { bench: Bench; view: CanvasView; isHeld: boolean }) {
  const { result, design } = bench;
  const { drawing_at: at, outline: o } = result;
  const { now, handle, save } = useDrag(bench, lieOf(design.result), lieEdits);
  if (!at || !o || !result.edge_path) return null;
  const [ox, oy] = view.toScreen([o.origin[0], o.origin[1]]);
  const k = Math.abs(view.y) / o.mm_per_px;
  const mirror = Math.sign(view.x) * (result.is_mirrored ? -1 : 1);
  // From the last step to the first: shifted back, then turned back about the plate's middle.
  const steps = [
    `translate(${ox} ${oy}) scale(${k * mirror} ${k})`,
    `rotate(${now.turn} ${at[0]} ${-at[1]})`,
    `translate(${-now.x} ${now.y})`,
  ];
  const [right, up] = plateAt(at, now, (result.edge_size?.[1] ?? 0) / 2);
  // Within reach, also where the rim is out of the view.
  const x = Math.min(view.width - ROOM, Math.max(ROOM, ox + right * k * mirror));
  const y = Math.min(view.height - ROOM, Math.max(ROOM, oy - up * k));
  const unit = design.document.unit;
  return (
    <>
      <path
        d={result.edge_path}
        transform={steps.join(" ")}
        fill="none"
        stroke="var(--soft)"
        strokeDasharray="10 4"
        strokeWidth={1.2}
        vectorEffect="non-scaling-stroke"
        pointerEvents="none"
        data-plate
      />
      {isHeld && (
        <g
          role="slider"
          tabIndex={0}
          aria-label="Place of the plate under the drawing"
          aria-valuenow={now.x}
          aria-valuetext={`Drawing ${withUnit(now.x, unit)} to the right, ${withUnit(now.y, unit)} up`}
          className="cursor-move touch-none stroke-glaze outline-none focus-visible:[stroke-width:3]"
          fill="var(--tile)"
          data-handle
          {...handle((from, dx, dy) => movedUnder(from, (dx / k) * mirror, -dy / k))}
          onKeyDown={(e) => {
            const move = moveOf(e);
            if (!move) return;
            e.preventDefault();
            save(movedUnder(now, move[0] * mirror, -move[1]));
          }}
        >
          <circle cx={x} cy={y} r={8} fillOpacity={0.85} strokeDasharray="4 2" />
          <path d={`M${x - 12} ${y}h24M${x} ${y - 12}v24`} />
        </g>
      )}
    </>
  );
}
