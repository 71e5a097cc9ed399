import type { MeasureView } from "../../api/generated/MeasureView";

/** The stable name of what is chosen, or the number. */
export function chosenOf(m: MeasureView): number | string {
  return m.options[m.value]?.name ?? m.value;
}
