import { expect, it } from "vitest";
import { readMesh } from "./mesh";

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
