import { PerspectiveCamera, Vector3 } from "three";
import { expect, test } from "vitest";
import { distanceTo, farther, radiusOf } from "./solid-frame";

test("a dragged height leaves the camera where it is", () => {
  const framed = radiusOf([90, 90, 15]);
  expect(farther(framed, radiusOf([90, 90, 40]))).toBe(1);
  expect(farther(framed, radiusOf([80, 84, 2]))).toBe(1);
});

test("another recipe's object is seen as large as the last one", () => {
  const [cutter, token] = [radiusOf([96, 99, 15]), radiusOf([30, 30, 4.5])];
  expect(cutter * farther(cutter, token)).toBeCloseTo(token);
  expect(token * farther(token, cutter)).toBeCloseTo(cutter);
});

test("nothing to see changes nothing", () => {
  expect(farther(0, 50)).toBe(1);
  expect(farther(50, 0)).toBe(1);
});

test("all of a box is seen, and not from afar", () => {
  for (const size of [
    [96, 99, 15],
    [98, 100, 10],
    [30, 30, 4.5],
    [20, 200, 60],
  ] as [number, number, number][]) {
    for (const from of [
      [0.28, -0.78, 0.62],
      [0, -0.001, 1],
      [0, -1, 0.02],
      [1, 0, 0.02],
    ] as [number, number, number][]) {
      for (const aspect of [0.6, 1, 1.8]) {
        // three's own projection is the reference.
        const camera = new PerspectiveCamera(28, aspect, 1, 4000);
        camera.up.set(0, 0, 1);
        const distance = distanceTo(size, from, (14 * Math.PI) / 180, aspect);
        camera.position.set(...from).setLength(distance);
        camera.lookAt(0, 0, 0);
        camera.updateMatrixWorld();
        let reach = 0;
        for (let k = 0; k < 8; k++) {
          const sign = (bit: number) => ((k >> bit) & 1 ? 0.5 : -0.5);
          const seen = new Vector3(size[0] * sign(0), size[1] * sign(1), size[2] * sign(2)).project(camera);
          reach = Math.max(reach, Math.abs(seen.x), Math.abs(seen.y));
        }
        expect(reach).toBeLessThan(1);
        expect(reach).toBeGreaterThan(0.85);
      }
    }
  }
});
