import { Vector3 } from "three";
import type { NamedView } from "./solid-props";

type Vec = [number, number, number];

/** Where each named view looks from. */
export const FROM: Record<NamedView, Vec> = {
  stand: [0.28, -0.78, 0.62],
  top: [0, -0.001, 1],
  bottom: [0, -0.001, -1],
  front: [0, -1, 0.02],
  right: [1, 0, 0.02],
};

/** Half the diagonal of an object, mm. */
export function radiusOf(size: Vec): number {
  return Math.hypot(...size) / 2;
}

/** A size that differs by less than this keeps the maker's view as it is: a dragged height must not move the camera. */
const KEPT = 1.35;

/** How many times as far the camera has to be after the object's radius has changed; 1 where it may stay. */
export function farther(framed: number, radius: number): number {
  if (!(framed > 0) || !(radius > 0)) return 1;
  const ratio = radius / framed;
  return ratio > KEPT || ratio < 1 / KEPT ? ratio : 1;
}

/** Room left round an object, as a share of the distance. */
const ROOM = 1.06;

/**
 * How far from the middle of a box of this size (mm) a camera has to be that looks at it from a direction, so that all of
 * the box is seen: `half` is half the angle of view upright (radians), `aspect` the picture's width over its height.
 */
export function distanceTo(size: Vec, from: Vec, half: number, aspect: number): number {
  const toward = new Vector3(...from).normalize();
  const right = new Vector3(0, 0, 1).cross(toward).normalize();
  const up = new Vector3().crossVectors(toward, right);
  const tall = Math.tan(half);
  const signs = [-0.5, 0.5];
  const corners = signs.flatMap((x) => signs.flatMap((y) => signs.map((z) => new Vector3(x, y, z))));
  const distances = corners.map((corner) => {
    corner.multiply(new Vector3(...size));
    const aside = Math.max(Math.abs(corner.dot(up)), Math.abs(corner.dot(right)) / aspect) / tall;
    return corner.dot(toward) + aside;
  });
  return Math.max(...distances) * ROOM;
}
