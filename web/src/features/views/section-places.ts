import type { HandleView } from "../../api/generated/HandleView";
import type { TierView } from "../../api/generated/TierView";

/** What a tier's faces take up in a section, pixels. */
export interface Box {
  right: number;
  left: number;
  /** Of its outermost face on the left. */
  middle: number;
}

/** What a handle moves. Several tiers may be moved by one measure: one handle is enough. */
export const keyOf = (h: HandleView) => `${h.own ?? ""}${h.name}`;

/** A handle where it can be taken hold of; `edge` is the height on the screen that it moves. */
export interface Placed {
  tier: TierView;
  handle: HandleView;
  x: number;
  y: number;
  edge: number;
}

/** So far apart handles are, along or up, pixels. */
const CLEAR = [26, 13] as const;
/** So far the tip of a finish stands above its foot: a finger tells them apart. */
const TIP_ABOVE_FOOT = 24;
/** So far to the right handles of heights may be, pixels. */
const MOST_INWARDS = 60;

/** Places handles so that the middle of each is its own; the one that is `held` stays. Heights stand on the left of what they move, finishes on the right. */
export function placesOf(
  handles: readonly { tier: TierView; handle: HandleView; box: Box }[],
  bed: number,
  kz: number,
  held: string | null,
): Placed[] {
  const seen = new Set<string>();
  const placed: Placed[] = [];
  for (const { tier, handle, box } of handles) {
    const name = keyOf(handle);
    if (seen.has(name)) continue;
    seen.add(name);
    const isFinish = handle.moves === "inset" || handle.moves === "depth";
    // A square edge has no finish to drag; it is given one in the measures. One that is dragged to nothing can be dragged back.
    if (isFinish && tier.finish === null && name !== held) continue;
    const deep = (tier.finish?.[1] ?? 0) * kz;
    const top = bed - (handle.moves === "bottom" ? tier.bottom : tier.top) * kz;
    const edge = handle.moves === "depth" ? top + deep : top;
    const y = handle.moves === "inset" ? Math.min(edge, top + deep - TIP_ABOVE_FOOT) : edge;
    let x = isFinish ? box.right : Math.min(box.middle, box.left + MOST_INWARDS);
    // Inwards: outside are the dimensions.
    const step = isFinish ? -CLEAR[0] : CLEAR[0];
    while (placed.some((q) => Math.abs(q.x - x) < CLEAR[0] && Math.abs(q.y - y) < CLEAR[1])) x += step;
    placed.push({ tier, handle, x, y, edge });
  }
  return placed;
}
