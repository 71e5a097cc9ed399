import { describe, expect, it } from "vitest";
import type { DrawnLine } from "../../api/generated/DrawnLine";
import type { Px } from "../artwork/frame";
import {
  arc,
  corner,
  cubicsOf,
  distance,
  isInside,
  movedNode,
  nearestOn,
  pathOf,
  piecesOf,
  pointOn,
  smooth,
  split,
  straightened,
} from "./lines";

const square: DrawnLine = {
  nodes: (
    [
      [0, 0],
      [10, 0],
      [10, 10],
      [0, 10],
    ] as Px[]
  ).map(corner),
  is_closed: true,
};
const bow: DrawnLine = {
  nodes: [
    { at: [0, 0], before: null, after: [0, 8] },
    { at: [10, 0], before: [10, 8], after: null },
  ],
  is_closed: false,
};

describe("lines of nodes", () => {
  it("are written as straight pieces and cubics, closed by Z", () => {
    expect(pathOf([square])).toBe("M0.00 0.00L10.00 0.00L10.00 10.00L0.00 10.00L0.00 0.00Z");
    expect(pathOf([bow], ([x, y]) => [x * 2, y])).toBe("M0.00 0.00C0.00 8.00 20.00 8.00 20.00 0.00");
    expect(pathOf([{ nodes: [], is_closed: true }])).toBe("");
  });

  it("come back from path data piece by piece", () => {
    const pieces = cubicsOf("M0 0L10 0C10 5 5 10 0 10Z");
    expect(pieces).toHaveLength(3);
    expect(pieces[1]).toEqual([
      [10, 0],
      [10, 5],
      [5, 10],
      [0, 10],
    ]);
    expect(pieces[2]?.[3]).toEqual([0, 0]);
    // A line that ends where it starts gets no piece of no length.
    expect(cubicsOf("M0 0L10 0L0 0Z")).toHaveLength(2);
  });

  it("keep their shape when a node is added", () => {
    for (const t of [0.2, 0.5, 0.9]) {
      const two = piecesOf(split(bow, 0, t));
      const [whole] = piecesOf(bow);
      expect(two).toHaveLength(2);
      for (const u of [0.1, 0.4, 0.8]) {
        const [first, second] = two;
        if (!whole || !first || !second) throw new Error("a piece is missing");
        expect(distance(pointOn(first, u), pointOn(whole, u * t))).toBeLessThan(1e-9);
        expect(distance(pointOn(second, u), pointOn(whole, t + u * (1 - t)))).toBeLessThan(1e-9);
      }
    }
    const more = split(square, 3, 0.5);
    expect(more.nodes.map((n) => n.at)).toContainEqual([0, 5]);
    expect(more.nodes).toHaveLength(5);
  });

  it("tell the nearest place on a piece", () => {
    const [side] = piecesOf(square);
    if (!side) throw new Error("no piece");
    expect(nearestOn(side, [4, 3])).toEqual({ t: 0.4, at: [4, 0], off: 3 });
    expect(nearestOn(side, [-5, 0]).off).toBe(5);
    const [curve] = piecesOf(bow);
    if (!curve) throw new Error("no piece");
    // The top of the bow: its middle, three quarters of the handles' height.
    const top = nearestOn(curve, [5, 20]);
    expect(top.t).toBeCloseTo(0.5, 3);
    expect(top.at[1]).toBeCloseTo(6, 5);
  });

  it("are made smooth with handles along their neighbours", () => {
    const n = smooth(square, 1);
    expect(n.at).toEqual([10, 0]);
    const [b, a] = [n.before, n.after];
    if (!a || !b) throw new Error("no handles");
    // In one line with the node, a third of the way to each side.
    expect((b[0] - 10) * a[1] - b[1] * (a[0] - 10)).toBeCloseTo(0);
    expect(distance(b, n.at)).toBeCloseTo(10 / 3);
    // The end of an open line has only one neighbour.
    expect(smooth(bow, 0)).toEqual(bow.nodes[0]);
  });

  it("move with their handles", () => {
    expect(movedNode({ at: [1, 1], before: null, after: [2, 2] }, [5, -1])).toEqual({
      at: [6, 0],
      before: null,
      after: [7, 1],
    });
  });
});

describe("drawing", () => {
  it("keeps to whole 15 degrees", () => {
    const to = straightened([0, 0], [10, 0.4]);
    expect(to[1]).toBeCloseTo(0);
    const slanted = straightened([0, 0], [10, 9]);
    expect(Math.atan2(slanted[1], slanted[0]) * (180 / Math.PI)).toBeCloseTo(45);
    expect(distance(straightened([3, 3], [3, 3]), [3, 3])).toBe(0);
  });

  it("draws arcs that stay on their circle", () => {
    for (const by of [
      [5, 5],
      [5, -5],
      [9.9, 1],
      [-20, 30],
    ] as Px[]) {
      const made = arc([0, 0], by, [10, 0]);
      if (!made) throw new Error("no arc");
      const line: DrawnLine = {
        nodes: [{ at: [0, 0], before: null, after: made.after }, ...made.nodes],
        is_closed: false,
      };
      // The centre lies on the bisector x = 5, equally far from the start and from the place on the arc.
      const cy = (by[0] ** 2 + by[1] ** 2 - 10 * by[0]) / (2 * by[1]);
      const r = distance([5, cy], [0, 0]);
      const points = piecesOf(line).flatMap((c) => [0, 0.25, 0.5, 0.75, 1].map((t) => pointOn(c, t)));
      // A cubic misses a quarter circle by 2.7e-4 of its radius (common handbook value, from memory).
      for (const q of points) expect(Math.abs(distance(q, [5, cy]) - r)).toBeLessThan(3e-4 * r);
      const off = Math.min(...piecesOf(line).map((c) => nearestOn(c, by).off));
      expect(off).toBeLessThan(3e-4 * r + 1e-6);
      expect(line.nodes.at(-1)?.at).toEqual([10, 0]);
    }
    expect(arc([0, 0], [5, 0], [10, 0])).toBeNull();
  });

  it("tells what lies in a loop", () => {
    const loop: Px[] = [
      [0, 0],
      [10, 0],
      [10, 10],
      [5, 4],
      [0, 10],
    ];
    expect(isInside([5, 2], loop)).toBe(true);
    expect(isInside([5, 8], loop)).toBe(false);
    expect(isInside([20, 2], loop)).toBe(false);
  });
});
