import type { Change } from "../../api/generated/Change";

type Mirror = Extract<Change, { do: "mirror" }>;

/** Mirrored across the next edge (or, of a quarter, the next corner) of the box of its patches, all of them kept. */
export function atNextEnd(change: Mirror): Mirror {
  const spans = change.on.flatMap((s) => (s.like ? [s.like.span] : []));
  if (spans.length === 0) return change;
  const end = (k: number, of: (...all: number[]) => number) => of(...spans.map((s) => s[k] ?? 0));
  const [left, top, right, bottom] = [end(0, Math.min), end(1, Math.min), end(2, Math.max), end(3, Math.max)];
  const [x, y] = [(left + right) / 2, (top + bottom) / 2];
  // What lies on the left of the line is kept: above it, left of it, under it, right of it. Of a quarter, also what lies on
  // the left of the line a quarter turn back.
  const ends: [number, number][] = change.is_quarter
    ? [
        [left, bottom],
        [right, bottom],
        [right, top],
        [left, top],
      ]
    : [
        [x, bottom],
        [right, y],
        [x, top],
        [left, y],
      ];
  const turns = (Math.round(change.degrees / 90) + 1) & 3;
  return { ...change, degrees: turns * 90, through: ends[turns] ?? change.through };
}
