import { expect, test } from "vitest";
import { atLocal, bentBy, bow, type Local, localOf, turnedTo } from "./local";

test("a place beside a turned text is found again from the picture", () => {
  for (const degrees of [0, 30, -90, 179]) {
    const back = localOf(atLocal([7, -3], degrees, 0.2), degrees, 0.2);
    expect(back[0]).toBeCloseTo(7);
    expect(back[1]).toBeCloseTo(-3);
  }
  // On the picture y goes down: above is less.
  expect(atLocal([0, 10], 0, 0.5)[1]).toBe(-20);
  // A quarter turn anticlockwise: what was above is to the left.
  expect(atLocal([0, 10], 90, 0.5)[0]).toBeCloseTo(-20);
});

test("a hand turns to where it is, in whole steps", () => {
  expect(turnedTo(0, [-1, 1], 1)).toBe(45);
  expect(turnedTo(170, [-1, 1], 1)).toBe(-145);
  expect(turnedTo(0, [-1, 1.1], 15)).toBe(45);
});

test("a text is bent through the place of the hand", () => {
  for (const arc of [20, -35, 4]) expect(bentBy(bow(arc, 5), 0.01)).toBeCloseTo(arc, 1);
  expect(bentBy([10, 0.01], 0.1)).toBe(0);
  const flat: Local = [10, -0.1];
  expect(bentBy(flat, 0.01)).toBe(0);
  expect(bentBy([0.1, -0.5], 0.01)).toBe(1);
});
