import { describe, expect, it } from "vitest";
import { corner, piecesOf, pointOn } from "./lines";
import { canRound, rounded } from "./rounding";

const square = {
  nodes: [corner([0, 0]), corner([40, 0]), corner([40, 40]), corner([0, 40])],
  is_closed: true,
};

describe("a corner rounded by a radius of its own", () => {
  it("is an arc that touches both sides; the others stay", () => {
    const line = rounded(square, (i) => i === 2, 10);
    expect(line.nodes.map((n) => n.at)).toEqual([
      [0, 0],
      [40, 0],
      [40, 30],
      [30, 40],
      [0, 40],
    ]);
    const arc = piecesOf(line)[2];
    expect(arc).toBeDefined();
    // Everywhere 10 from the middle of the arc, to a thousandth.
    for (let t = 0; arc && t <= 1; t += 0.1) {
      const [x, y] = pointOn(arc, t);
      expect(Math.hypot(x - 30, y - 30)).toBeCloseTo(10, 2);
    }
  });

  it("is no larger than its sides, and shares a side with a neighbour that is rounded too", () => {
    const all = rounded(square, () => true, 100);
    expect(all.nodes).toHaveLength(8);
    for (const n of all.nodes) expect(Math.max(...n.at.map((v) => Math.abs(v - 20)))).toBeCloseTo(20, 6);
    expect(all.nodes[1]?.at[0]).toBeCloseTo(20, 1);
  });

  it("needs two straight sides", () => {
    const curved = {
      ...square,
      nodes: square.nodes.map((n, i) => (i === 0 ? { ...n, after: [9, -9] as [number, number] } : n)),
    };
    expect([0, 1, 2, 3].map((i) => canRound(curved, i))).toEqual([false, false, true, true]);
    expect(rounded(curved, () => true, 5).nodes).toHaveLength(6);
    const open = { nodes: square.nodes.slice(0, 3), is_closed: false };
    expect([0, 1, 2].map((i) => canRound(open, i))).toEqual([false, true, false]);
  });
});
