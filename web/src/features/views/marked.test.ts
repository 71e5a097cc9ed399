import { expect, test } from "vitest";
import { eyeFor, outlinesOf } from "./marked";

const square = "M10 -4 L20 -4 L20 6 L10 6 Z";

test("a place is outlined at both its ends, and as high as the object where it has none", () => {
  const [top, low] = outlinesOf([{ path: square, heights: [2, 5] }], 12);
  expect(top?.[0]).toEqual([10, 4, 5]);
  expect(low?.[0]).toEqual([10, 4, 2]);
  expect(top?.at(-1)).toEqual(top?.[0]);
  expect(outlinesOf([{ path: square, heights: null }], 12)[0]?.[0]?.[2]).toBe(12);
  expect(outlinesOf([{ path: square, heights: [2, 2.2] }], 12)).toHaveLength(1);
  expect(outlinesOf([{ path: square + square, heights: [0, 5] }], 12)).toHaveLength(4);
});

test("a place is looked at from its own side, and from below where it lies low in the air", () => {
  const [x, y, z] = eyeFor({ path: square, heights: null }, [40, 40, 12]) ?? [0, 0, 0];
  expect(x).toBeGreaterThan(0.5);
  expect(Math.abs(y)).toBeLessThan(0.2);
  expect(z).toBeGreaterThan(0.3);
  expect(Math.hypot(x, y, z)).toBeCloseTo(1, 9);
  expect(eyeFor({ path: square, heights: [1, 2] }, [40, 40, 12])?.[2]).toBeLessThan(0);
  expect(eyeFor({ path: square, heights: [0, 2] }, [40, 40, 12])?.[2]).toBeGreaterThan(0);
  expect(eyeFor({ path: "", heights: null }, [40, 40, 12])).toBeNull();
});
