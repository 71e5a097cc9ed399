import { expect, it } from "vitest";
import { readMesh, type TierMesh } from "../../api/mesh";
import { boxOf, coarsened, creases } from "./mesh";

it("reads tiers as they lie in the answer", () => {
  const bytes = new ArrayBuffer(16 + 16 + 36 + 12);
  const v = new DataView(bytes);
  [0x48534d4b, 2, 1, 0, 2, 1, 3, 1].forEach((n, i) => {
    v.setUint32(i * 4, n, true);
  });
  v.setFloat32(32 + 4, 2.5, true);
  [0, 1, 2].forEach((n, i) => {
    v.setUint32(68 + i * 4, n, true);
  });
  const [tier] = readMesh(bytes);
  expect([tier?.role, tier?.part]).toEqual([2, 1]);
  expect(tier?.positions[1]).toBe(2.5);
  expect([...(tier?.corners ?? [])]).toEqual([0, 1, 2]);
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
  return { role: 0, part: 0, positions, corners: new Uint32Array(corners) };
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

it("draws lines where faces meet at an angle, or end", () => {
  // A flat plate of many triangles shows its rim alone: four sides of three squares each.
  expect(creases(plate(3, 10), 24)).toHaveLength(4 * 3 * 6);
  // Folded along its diagonal it shows that, too; by less than the angle it does not.
  const folded = (by: number): TierMesh => {
    const flat = plate(1, 10);
    const positions = Float32Array.from(flat.positions);
    positions[2] = by;
    return { ...flat, positions };
  };
  expect(creases(folded(0), 24)).toHaveLength(4 * 6);
  expect(creases(folded(2), 24)).toHaveLength(4 * 6);
  expect(creases(folded(7), 24)).toHaveLength(5 * 6);
});
