import { rgb } from "../views/look";
import type { LaidGroup } from "../views/solid-props";
import { KINDS, type Seen } from "./layer-plan";

/** The lines of a layer as they lie on a solid. */
export function laidOn(groups: Seen["groups"], byFilament: boolean): LaidGroup[] {
  return groups.map((g) => ({
    poses: g.poses,
    lines: g.lines.map((l) => ({
      path: l.path,
      // A hair of what is below shows between them.
      width: l.width * 0.9,
      colour: byFilament ? rgb(l.colour) : KINDS[l.kind].colour,
    })),
  }));
}
