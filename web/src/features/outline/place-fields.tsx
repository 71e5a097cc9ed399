import type { Bench } from "../../api/bench";
import type { Px } from "../artwork/frame";
import { LengthField } from "../artwork/tools/tray";

/** A place on the picture, typed in the design's unit, to the right and up from the middle of the object. */
export function PlaceFields(p: { bench: Bench; at: Px; most: number; onChange: (to: Px) => void }) {
  const { at, most } = p;
  const [ox, oy] = p.bench.result.outline?.origin ?? [0, 0];
  const mm = p.bench.result.outline?.mm_per_px ?? 1;
  return (
    <>
      <LengthField
        label="To the right"
        unit={p.bench.design.document.unit}
        min={-most}
        max={most}
        value={(at[0] - ox) * mm}
        onChange={(v) => p.onChange([ox + v / mm, at[1]])}
      />
      <LengthField
        label="Up"
        unit={p.bench.design.document.unit}
        min={-most}
        max={most}
        value={(oy - at[1]) * mm}
        onChange={(v) => p.onChange([at[0], oy - v / mm])}
      />
    </>
  );
}
