import { expect, test } from "vitest";
import { type Matrix, matrixOf, over, posedBy } from "./camera-view";
import { posed } from "./laid";

const extent = { width: 600, height: 500 };
const bed: [number, number] = [220, 220];
const at = (m: Matrix, x: number, y: number): [number, number] => [
  m.a * x + m.c * y + m.e,
  m.b * x + m.d * y + m.f,
];

test("the whole bed is seen, and what is higher is further up", () => {
  const view = matrixOf(bed, extent, 1);
  for (const [x, y] of [
    [0, 0],
    [220, 0],
    [220, -220],
    [0, -220],
  ] as const) {
    for (const z of [0, 40]) {
      const [px, py] = at(over(view, z), x, y);
      expect(px).toBeGreaterThan(0);
      expect(px).toBeLessThan(600);
      expect(py).toBeGreaterThan(0);
      expect(py).toBeLessThan(500);
    }
  }
  expect(at(over(view, 10), 50, -50)[1]).toBeLessThan(at(view, 50, -50)[1]);
});

test("what lies in a pose is seen where the pose puts it", () => {
  const view = matrixOf(bed, extent, 2);
  const pose = { x: 80, y: 40, degrees: 30 };
  const [x, y] = posed([5, -7], pose);
  const direct = at(view, x, y);
  const seen = at(posedBy(view, pose), 5, -7);
  expect(seen[0]).toBeCloseTo(direct[0]);
  expect(seen[1]).toBeCloseTo(direct[1]);
});
