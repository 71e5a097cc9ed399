import { expect, test } from "vitest";
import { apply, degreesToStraight, nodesOf, scaleAt, thinned } from "./frame";

test("maps are projective and tell their scale", () => {
  expect(apply([2, 0, 5, 0, 2, -1, 0, 0, 1], [3, 4])).toEqual([11, 7]);
  expect(apply([1, 0, 0, 0, 1, 0, 0.5, 0, 1], [2, 6])).toEqual([1, 3]);
  expect(scaleAt([0, -3, 0, 3, 0, 0, 0, 0, 1], [9, 9])).toBeCloseTo(3);
});

test("a line is made level or upright, whichever is nearer", () => {
  expect(degreesToStraight([0, 0], [10, 1])).toBeCloseTo(-5.71, 2);
  expect(degreesToStraight([10, 1], [0, 0])).toBeCloseTo(-5.71, 2);
  expect(degreesToStraight([0, 0], [1, 10])).toBeCloseTo(5.71, 2);
  expect(Math.abs(degreesToStraight([0, 0], [-10, 0]))).toBeCloseTo(0);
});

test("strokes lose the points that say nothing", () => {
  expect(
    thinned(
      [
        [0, 0],
        [1, 0.01],
        [2, 0],
        [3, 0],
        [3, 3],
      ],
      0.1,
    ),
  ).toEqual([
    [0, 0],
    [3, 0],
    [3, 3],
  ]);
  expect(
    thinned(
      [
        [0, 0],
        [5, 0],
        [0, 0],
      ],
      0.1,
    ),
  ).toEqual([
    [0, 0],
    [5, 0],
    [0, 0],
  ]);
});

test("nodes are the ends of a path's pieces", () => {
  expect(nodesOf("M1 2L3 4C5 6 7 8 9 10Z")).toEqual([
    [1, 2],
    [3, 4],
    [9, 10],
  ]);
});
