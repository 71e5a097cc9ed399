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

/** Room left round an object, as a share of the distance. */
const ROOM = 1.06;

/** How an object is seen. */
export interface Framed {
  /** Whether all of it is seen. */
  isWhole: boolean;
  /** So many times as far the camera would have to be for all of it to be seen, with some room. */
  needed: number;
}

/**
 * How many times as far the camera has to be after a new mesh: 1 leaves it where the maker has put it. It moves only where an object
 * that was seen whole has grown out of the view; who has come closer on purpose stays there.
 */
export function farther(was: Framed, now: Framed): number {
  return was.isWhole && !now.isWhole ? now.needed : 1;
}

/** How a box that stands on the bed is seen by a camera that looks at a height above its middle, from a direction and so far. */
export function framedOf(
  size: Vec,
  view: { from: Vec; distance: number; at: number; half: number; aspect: number },
): Framed {
  // The middle of the view may not be that of the box: what is farther off counts.
  const off = Math.abs(size[2] / 2 - view.at);
  const tall: Vec = [size[0], size[1], size[2] + 2 * off];
  const needed = distanceTo(tall, view.from, view.half, view.aspect) / view.distance;
  return { isWhole: needed <= ROOM, needed };
}

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
