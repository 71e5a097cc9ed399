import Flatbush from "flatbush";
import { create } from "zustand";
import type { DesignView } from "../../api/generated/DesignView";
import type { Px } from "../artwork/frame";
import { type Cubic, cubicsOf, distance, nearestOn, pointOn } from "./lines";
import { symmetryOf } from "./symmetry";

/** What a pointer can catch, and what it is called. */
export const CATCHES = {
  nodes: "node",
  middles: "middle",
  edges: "edge",
  centre: "centre line",
  guides: "guide",
  grid: "grid",
} as const;
export type CatchKind = keyof typeof CATCHES;

const nameOf = (what: CatchKind | "axis") => (what === "axis" ? "axis of symmetry" : CATCHES[what]);

interface Wanted {
  on: Record<CatchKind, boolean>;
  toggle: (kind: CatchKind) => void;
}

/** Which of them are caught; the same for all tools. */
export const useCatches = create<Wanted>((set) => ({
  on: { nodes: true, middles: false, edges: true, centre: true, guides: true, grid: false },
  toggle: (kind) => set((s) => ({ on: { ...s.on, [kind]: !s.on[kind] } })),
}));

/** A place and what it was that caught it. */
export interface Caught {
  at: Px;
  what: string | null;
}

/** Pieces of lines, found by where they are. */
export interface Pieces {
  /** Those whose box lies within `reach` of a place. */
  near: (p: Px, reach: number) => Cubic[];
}

export function piecesNear(pieces: Cubic[]): Pieces {
  if (pieces.length === 0) return { near: () => [] };
  const index = new Flatbush(pieces.length);
  for (const [a, b, c, d] of pieces) {
    index.add(
      Math.min(a[0], b[0], c[0], d[0]),
      Math.min(a[1], b[1], c[1], d[1]),
      Math.max(a[0], b[0], c[0], d[0]),
      Math.max(a[1], b[1], c[1], d[1]),
    );
  }
  index.finish();
  return {
    near: ([x, y], reach) =>
      index.search(x - reach, y - reach, x + reach, y + reach).flatMap((k) => [pieces[k] as Cubic]),
  };
}

/** All that can be caught on a design. */
export interface Things {
  pieces: Pieces;
  origin: Px;
  mm: number;
  guides: DesignView["document"]["guides"];
  /** Where upright (0) and level (1) axes of symmetry run, for what is mirrored at a line. */
  axes: [number[], number[]];
}

/** As the design is saved: what a hand just moves does not catch itself. Nor does what the entry `without` has made. */
export function thingsOf(design: DesignView, without?: number): Things {
  const o = design.result.outline;
  const others = design.result.patches.filter((q) => !(q.root?.from === "made" && q.root.by === without));
  return {
    pieces: piecesNear(others.flatMap((q) => cubicsOf(q.path))),
    origin: o?.origin ?? [0, 0],
    mm: o?.mm_per_px ?? 1,
    guides: design.document.guides,
    axes: without === undefined ? [[], []] : axesOf(others.map((q) => q.path)),
  };
}

/** Patches whose axes are looked for, and pieces that they have at the most: it takes a while. */
const MOST_AXES = 12;
const MOST_PIECES = 300;

function axesOf(paths: string[]): [number[], number[]] {
  const symmetries = paths
    .slice(0, MOST_AXES)
    .map(cubicsOf)
    .filter((pieces) => pieces.length > 2 && pieces.length < MOST_PIECES)
    .map(symmetryOf);
  return [
    symmetries.flatMap((s) => (s.isAbout(90) ? [s.through[0]] : [])),
    symmetries.flatMap((s) => (s.isAbout(0) ? [s.through[1]] : [])),
  ];
}

/** Where a piece crosses an upright (0) or level (1) line. */
function crossings(c: Cubic, axis: 0 | 1, v: number): Px[] {
  const off = (t: number) => pointOn(c, t)[axis] - v;
  const steps = Array.from({ length: 16 }, (_, k) => [k / 16, (k + 1) / 16] as const);
  return steps.flatMap(([a, b]) => {
    if (off(a) > 0 === off(b) > 0) return [];
    let [low, high] = [a, b];
    for (let k = 0; k < 30; k++) {
      const t = (low + high) / 2;
      if (off(a) > 0 === off(t) > 0) low = t;
      else high = t;
    }
    const at = pointOn(c, low);
    at[axis] = v;
    return [at];
  });
}

/** The place that is caught from `p` within `reach` pixels of the picture: points before lines, lines before the grid. */
export function caughtAt(p: Px, reach: number, things: Things, on: Record<CatchKind, boolean>): Caught {
  let best: Caught & { off: number } = { at: p, what: null, off: reach };
  const offer = (at: Px, what: CatchKind | "axis") => {
    const off = distance(at, p);
    if (off < best.off) best = { at, what: nameOf(what), off };
  };
  const near = things.pieces.near(p, reach);
  for (const c of near) {
    if (on.nodes) offer(c[3], "nodes");
    if (on.middles) offer(pointOn(c, 0.5), "middles");
  }
  if (best.what) return best;
  const straight = (axis: 0 | 1): { to: number; what: CatchKind | "axis" } | null => {
    const near = (v: number) => Math.abs(v - p[axis]) < reach;
    const guide = things.guides.find((g) => on.guides && g.is_upright === (axis === 0) && near(g.at));
    if (guide) return { to: guide.at, what: "guides" };
    const symmetry = things.axes[axis].find((at) => on.centre && near(at));
    if (symmetry !== undefined) return { to: symmetry, what: "axis" };
    return on.centre && near(things.origin[axis]) ? { to: things.origin[axis], what: "centre" } : null;
  };
  const [x, y] = [straight(0), straight(1)];
  // Where a guide crosses a line, before the guide alone.
  for (const [axis, line] of [
    [0, x],
    [1, y],
  ] as const) {
    if (!line || !on.edges || (x && y)) continue;
    for (const c of near) for (const q of crossings(c, axis, line.to)) offer(q, line.what);
  }
  if (best.what) return { at: best.at, what: `${best.what}, on the line` };
  if (x || y) return { at: [x?.to ?? p[0], y?.to ?? p[1]], what: nameOf((x ?? y)?.what ?? "guides") };
  if (on.edges) {
    for (const c of near) offer(nearestOn(c, p).at, "edges");
    if (best.what) return best;
  }
  if (on.grid) {
    const step = 1 / things.mm;
    const round = (v: number, o: number) => o + Math.round((v - o) / step) * step;
    return { at: [round(p[0], things.origin[0]), round(p[1], things.origin[1])], what: CATCHES.grid };
  }
  return best;
}
