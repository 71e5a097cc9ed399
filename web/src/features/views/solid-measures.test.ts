import { expect, it } from "vitest";
import { dimensions } from "./solid-measures";

it("dimensions run along the box, a little off it", () => {
  const [width, depth, height] = dimensions([-45, -40, 0], [45, 41, 15]);
  expect([width?.mm, depth?.mm, height?.mm]).toEqual([90, 81, 15]);
  for (const d of [width, depth, height]) {
    const [a, b] = d?.line ?? [
      [0, 0, 0],
      [0, 0, 0],
    ];
    const long = Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2]);
    expect(long).toBeCloseTo(d?.mm ?? 0);
    // In front of the object or to its right, never in it.
    expect(a[1] < -40 || a[0] > 45).toBe(true);
    expect(b[1] < -40 || b[0] > 45).toBe(true);
  }
});
