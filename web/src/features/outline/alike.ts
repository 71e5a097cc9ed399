import type { PatchView } from "../../api/generated/PatchView";

export type Alike = "colour" | "size" | "smaller" | "inside" | "within" | "use";

export const ALIKE: { how: Alike; words: string }[] = [
  { how: "colour", words: "Of the same colour" },
  { how: "size", words: "Of the same size" },
  { how: "smaller", words: "As small, or smaller" },
  { how: "inside", words: "Inside the same" },
  { how: "within", words: "Everything within" },
  { how: "use", words: "Of the same use" },
];

/** Patches whose areas differ by less than this share of the larger one have one size. */
const SAME_SIZE = 0.25;

const areaOf = ({ area, span: [l, t, r, b] }: PatchView) => area ?? (r - l) * (b - t);

function liesIn(q: PatchView, outer: PatchView, patches: readonly PatchView[]): boolean {
  let up = q.parent;
  while (up !== null) {
    const p = patches[up];
    if (!p || p === outer) return p === outer;
    up = p.parent;
  }
  return false;
}

/** The chosen patches and all that are like one of them. */
export function alike(patches: readonly PatchView[], chosen: readonly number[], how: Alike): number[] {
  const of = chosen.flatMap((i) => patches[i] ?? []);
  const isLike = (a: PatchView, b: PatchView): boolean => {
    switch (how) {
      case "colour":
        return a.is_ink === b.is_ink && String(a.colour) === String(b.colour);
      case "size": {
        const [x, y] = [areaOf(a), areaOf(b)];
        return a.is_ink === b.is_ink && Math.abs(x - y) <= SAME_SIZE * Math.max(x, y);
      }
      case "smaller":
        return a.is_ink === b.is_ink && areaOf(b) <= areaOf(a);
      case "within":
        return liesIn(b, a, patches);
      case "inside":
        return a.parent === b.parent && a.is_ink === b.is_ink;
      case "use":
        return a.use === b.use;
    }
  };
  return patches.flatMap((q, i) => (chosen.includes(i) || of.some((a) => isLike(a, q)) ? [i] : []));
}

/** What Ctrl A chooses: all ink, and the gaps that are in use. */
export const allOf = (patches: readonly PatchView[]): number[] =>
  patches.flatMap((q, i) => (q.is_ink || q.use !== "aside" ? [i] : []));
