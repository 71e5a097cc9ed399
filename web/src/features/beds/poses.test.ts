import { expect, test } from "vitest";
import { added, turnedBy } from "./poses";

test("moves add up in hundredths and turns stay within a circle", () => {
  const at = { x: 10, y: 20, degrees: 345 };
  expect([0.1, 0.2, 0.3].reduce((p, by) => added(p, [by, -by]), at)).toEqual({
    x: 10.6,
    y: 19.4,
    degrees: 345,
  });
  expect(turnedBy(at, 15).degrees).toBe(0);
  expect(turnedBy({ ...at, degrees: 0 }, -15).degrees).toBe(345);
});
