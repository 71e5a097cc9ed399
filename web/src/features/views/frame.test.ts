import { expect, it } from "vitest";
import { barLength, fitScale } from "./frame";

it("fits the tighter side", () => {
  expect(fitScale({ width: 100, height: 50 }, { width: 440, height: 440 }, 20)).toBe(4);
  expect(fitScale({ width: 10, height: 100 }, { width: 440, height: 240 }, 20)).toBe(2);
  expect(fitScale({ width: 0, height: 0 }, { width: 0, height: 0 }, 20)).toBeGreaterThan(0);
});

it("takes a round scale bar", () => {
  expect(barLength(4, 100)).toBe(20);
  expect(barLength(0.3, 100)).toBe(200);
  expect(barLength(400, 100)).toBe(0.2);
});
