import { PerspectiveCamera, Vector3 } from "three";
import { expect, test } from "vitest";
import { distanceTo, farther, framedOf } from "./solid-frame";

const HALF = (14 * Math.PI) / 180;
const FROM_AFAR: [number, number, number] = [0.28, -0.78, 0.62];

/** How far off a camera stands that frames a size, and how it sees another from there. */
function seenFrom(framed: [number, number, number], size: [number, number, number], nearer = 1) {
  const distance = distanceTo(framed, FROM_AFAR, HALF, 1) / nearer;
  return framedOf(size, { from: FROM_AFAR, distance, at: framed[2] / 2, half: HALF, aspect: 1 });
}

test("a new mesh leaves the camera where it is while all of it is seen", () => {
  const cutter: [number, number, number] = [90, 90, 15];
  const was = seenFrom(cutter, cutter);
  expect(was.isWhole).toBe(true);
  for (const now of [
    [90, 90, 16],
    [80, 84, 2],
    [30, 30, 4.5],
  ] as [number, number, number][])
    expect(farther(was, seenFrom(cutter, now))).toBe(1);
});

test("what grows out of the view is framed anew, and seen whole then", () => {
  const cutter: [number, number, number] = [90, 90, 15];
  const wide: [number, number, number] = [180, 140, 15];
  const times = farther(seenFrom(cutter, cutter), seenFrom(cutter, wide));
  expect(times).toBeGreaterThan(1.3);
  expect(seenFrom(cutter, wide, 1 / times).isWhole).toBe(true);
});

test("who has come closer on purpose stays there", () => {
  const cutter: [number, number, number] = [90, 90, 15];
  const was = seenFrom(cutter, cutter, 3);
  expect(was.isWhole).toBe(false);
  expect(farther(was, seenFrom(cutter, [180, 140, 15], 3))).toBe(1);
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
