import { expect, test } from "vitest";
import { moved, movedUnder, plateAt } from "./lie";

const lie = { x: 2, y: -1, turn: 30 };

test("a drawing is moved on its plate to a tenth of a millimetre", () => {
  expect(moved(lie, 1.04, 0.26)).toEqual({ x: 3, y: -0.7, turn: 30 });
});

test("a plate that is moved under its drawing follows the hand, whatever the turn", () => {
  const at = [4, 7];
  for (const turn of [0, 30, 90, -145]) {
    const from = { ...lie, turn };
    const [x, y] = plateAt(at, from);
    const [right, up] = plateAt(at, movedUnder(from, 3, 1.5));
    // To the tenth that places are kept to.
    expect(Math.abs(right - x - 3)).toBeLessThan(0.08);
    expect(Math.abs(up - y - 1.5)).toBeLessThan(0.08);
  }
  expect(plateAt(at, { x: 0, y: 0, turn: 90 })).toEqual([-3, 11].map((v) => expect.closeTo(v, 9)));
  expect(plateAt(at, { x: 0, y: 0, turn: 90 }, 10)).toEqual([7, 11].map((v) => expect.closeTo(v, 9)));
});
