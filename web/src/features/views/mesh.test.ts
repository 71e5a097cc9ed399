import { expect, it } from "vitest";
import { readMesh, type TierMesh } from "../../api/mesh";
import { boxOf, coarsened } from "./mesh";

it("reads tiers as they lie in the answer", () => {
  const bytes = new ArrayBuffer(16 + 20 + 36 + 12 + 8);
  const v = new DataView(bytes);
  [0x48534d4b, 3, 1, 0, 2, 1, 3, 1, 1].forEach((n, i) => {
    v.setUint32(i * 4, n, true);
  });
  v.setFloat32(36 + 4, 2.5, true);
  [0, 1, 2, 2, 0].forEach((n, i) => {
    v.setUint32(72 + i * 4, n, true);
  });
  const [tier] = readMesh(bytes);
  expect([tier?.role, tier?.part]).toEqual([2, 1]);
  expect(tier?.positions[1]).toBe(2.5);
  expect([...(tier?.corners ?? [])]).toEqual([0, 1, 2]);
  expect([...(tier?.lines ?? [])]).toEqual([2, 0]);
});

it("refuses what is no mesh", () => {
  expect(() => readMesh(new ArrayBuffer(4))).toThrow();
  expect(() => readMesh(new ArrayBuffer(64))).toThrow();
});

/** A plate of n by n squares, each of two triangles. */
function plate(n: number, side: number): TierMesh {
  const at = (i: number, j: number) => i * (n + 1) + j;
  const positions = new Float32Array((n + 1) ** 2 * 3);
  const corners: number[] = [];
  for (let i = 0; i <= n; i++) {
    for (let j = 0; j <= n; j++) {
      positions.set([(i / n) * side, (j / n) * side, 0], at(i, j) * 3);
      if (i < n && j < n)
        corners.push(at(i, j), at(i + 1, j), at(i, j + 1), at(i + 1, j), at(i + 1, j + 1), at(i, j + 1));
    }
  }
  return { role: 0, part: 0, positions, corners: new Uint32Array(corners), lines: new Uint32Array() };
}

it("puts corners of a cell together and keeps what is larger", () => {
  const fine = plate(100, 50);
  const coarse = coarsened(fine, 2.5);
  expect(fine.corners.length / 3).toBe(20_000);
  expect(coarse.corners.length / 3).toBeLessThan(1_200);
  expect(coarse.corners.length / 3).toBeGreaterThan(600);
  const box = boxOf([coarse]);
  expect(box.high[0] - box.low[0]).toBeGreaterThan(47);
  // Nothing is put together where the cells are smaller than the triangles.
  expect(coarsened(plate(4, 40), 1).corners.length).toBe(plate(4, 40).corners.length);
});
