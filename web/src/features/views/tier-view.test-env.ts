import type { TierView } from "../../api/generated/TierView";

/** A tier that stands on the bed, for tests. */
export const tierView = (
  key: string,
  top: number,
  handles: TierView["handles"],
  finish: TierView["finish"] = null,
): TierView => ({
  key,
  role: key,
  name: key,
  path: "",
  bottom: 0,
  top,
  is_cut: false,
  filament: "celadon",
  colour: [169, 203, 176],
  handles,
  finish,
});
