import type { Likeness } from "../../api/generated/Likeness";
import type { PatchView } from "../../api/generated/PatchView";
import type { Spot } from "../../api/generated/Spot";
import type { Px } from "../artwork/frame";
import { cubicsOf, isInside, pointOn } from "./lines";
import { spotOf } from "./tools/tool";

// The same search as `patch_at` of crates/outline; a table of cases holds both to it.

/** From which share of common box to box round both a patch elsewhere is the same one. */
const SAME_SHARE = 0.4;
/** The same where it does not lie within as many others. */
const SAME_SHARE_ELSEWHERE = 0.7;
/** Under which share the patch round the point of an altered one is another one. */
const LEAST_SHARE = 0.05;
/** Straight pieces that a curve is looked at as. */
const PIECES = 12;

/** Whether a place lies in an area: within an odd number of its lines. */
export function isWithinPath(path: string, at: Px): boolean {
  const rings = path.split("Z").filter((ring) => ring !== "");
  const loop = (ring: string) =>
    cubicsOf(`${ring}Z`).flatMap((c) => Array.from({ length: PIECES }, (_, k) => pointOn(c, k / PIECES)));
  return rings.filter((ring) => isInside(at, loop(ring))).length % 2 === 1;
}

/** The area that both boxes share, by that of the two together. */
function share(a: Likeness, b: Likeness): number {
  const side = (low: number, high: number) => Math.max(0, high - low);
  const area = ({ span: [l, t, r, bottom] }: Likeness) => side(l, r) * side(t, bottom);
  const common =
    side(Math.max(a.span[0], b.span[0]), Math.min(a.span[2], b.span[2])) *
    side(Math.max(a.span[1], b.span[1]), Math.min(a.span[3], b.span[3]));
  return common / Math.max(area(a) + area(b) - common, Number.MIN_VALUE);
}

const score = (a: Likeness, b: Likeness) => share(a, b) + (a.depth === b.depth ? 0.05 : 0);

const isSame = (a: Likeness, b: Likeness) =>
  share(a, b) >= (a.depth === b.depth ? SAME_SHARE : SAME_SHARE_ELSEWHERE);

const likeOf = (q: PatchView): Likeness => ({ span: q.span, depth: q.depth });

/** Where a patch comes from: the view says so only of one that is not as traced. */
const rootOf = (q: PatchView) => q.root ?? { from: "traced" as const, at: q.at, like: likeOf(q) };

/** A patch by where it comes from too, so that it is known wherever it is moved to. */
export const followed = (q: PatchView): Spot => ({ ...spotOf(q), root: rootOf(q) });

/** The last of those with the highest score; those without a score are left out. */
function best(all: readonly number[], of: (k: number) => number | null): number | null {
  let found: { k: number; score: number } | null = null;
  for (const k of all) {
    const s = of(k);
    if (s !== null && (found === null || s >= found.score)) found = { k, score: s };
  }
  return found?.k ?? null;
}

function byRoot(patches: readonly PatchView[], kind: readonly number[], spot: Spot): number | null {
  // It was as traced when it was named; an earlier entry may have moved it since.
  const { at: place, like } = spot;
  const root = spot.root ?? (like ? { from: "traced" as const, at: place, like } : null);
  if (!root) return null;
  const name = JSON.stringify(root);
  const at = (k: number) => patches[k] as PatchView;
  const exact = kind.find((k) => JSON.stringify(rootOf(at(k))) === name);
  if (exact !== undefined || !spot.root || root.from !== "traced") return exact ?? null;
  return best(kind, (k) => {
    const own = rootOf(at(k));
    return own.from === "traced" && isSame(root.like, own.like) ? score(root.like, own.like) : null;
  });
}

function byPlace(patches: readonly PatchView[], kind: readonly number[], spot: Spot): number | null {
  let found: { k: number; score: number; area: number } | null = null;
  for (const k of kind) {
    const q = patches[k] as PatchView;
    const [l, t, r, b] = q.span;
    const [x, y] = spot.at;
    if (x < l || x > r || y < t || y > b || !isWithinPath(q.path, spot.at)) continue;
    // What was made or altered and is gone must not become the plate on which it lay.
    if (spot.like && spot.root && share(spot.like, likeOf(q)) < LEAST_SHARE) continue;
    const own = { k, score: spot.like ? score(spot.like, likeOf(q)) : 0, area: areaOf(q) };
    if (!found || own.score > found.score || (own.score === found.score && own.area <= found.area))
      found = own;
  }
  return found?.k ?? null;
}

/** Its area where it has a size, else that of its box: only which of two is smaller matters. */
const areaOf = (q: PatchView) => q.area ?? (q.span[2] - q.span[0]) * (q.span[3] - q.span[1]);

/**
 * The place in the list of the patch that a spot names: by where it comes from; else the one round the point (the most alike
 * of several, or the smallest); else one whose box is much the same.
 */
export function patchAt(patches: readonly PatchView[], spot: Spot): number | null {
  const kind = patches.flatMap((q, k) => (q.is_ink === spot.is_ink ? [k] : []));
  const { like } = spot;
  const byOverlap = () =>
    like
      ? best(kind, (k) => {
          const own = likeOf(patches[k] as PatchView);
          return isSame(like, own) ? score(like, own) : null;
        })
      : null;
  return byRoot(patches, kind, spot) ?? byPlace(patches, kind, spot) ?? byOverlap();
}
