import { expect, test } from "vitest";
import { flat } from "./ribbons";

/** Area of all triangles, and whether all turn to the left. */
function areas(corners: Float32Array): number[] {
  const all = [];
  for (let k = 0; k < corners.length; k += 6) {
    const [ax, ay, bx, by, cx, cy] = corners.subarray(k, k + 6) as unknown as number[] as [
      number,
      number,
      number,
      number,
      number,
      number,
    ];
    all.push(((bx - ax) * (cy - ay) - (by - ay) * (cx - ax)) / 2);
  }
  return all;
}

test("a line is a rectangle as wide as it is, seen from above", () => {
  const { corners, counts } = flat([{ path: "M0 0L10 0", width: 0.4, colour: "red" }]);
  expect(counts).toEqual([6]);
  const all = areas(corners);
  expect(all.every((a) => a > 0)).toBe(true);
  // Half of its width longer, a quarter at each end.
  expect(all.reduce((a, b) => a + b)).toBeCloseTo(10.2 * 0.4, 5);
});

test("closed lines close, y is turned up, and nothing has no length", () => {
  const { corners, counts } = flat([
    { path: "M0 0L10 0L10 10Z", width: 1, colour: "red" },
    { path: "M5 5L5 5", width: 1, colour: "red" },
  ]);
  expect(counts).toEqual([18, 0]);
  expect(Math.min(...corners.filter((_, k) => k % 2 === 1))).toBeLessThan(-9.9);
});
