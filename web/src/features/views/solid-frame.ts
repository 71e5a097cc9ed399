/** Half the diagonal of an object, mm. */
export function radiusOf(size: [number, number, number]): number {
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
  const [toward, right, up] = axesOf(from);
  const [x, y, z] = size.map((s) => s / 2);
  const tall = Math.tan(half);
  let far = 0;
  for (const corner of [-1, 1].flatMap((i) =>
    [-1, 1].flatMap((j) => [-1, 1].map((k): Vec => [i * (x ?? 0), j * (y ?? 0), k * (z ?? 0)])),
  )) {
    const aside = Math.max(Math.abs(dot(corner, up)) / tall, Math.abs(dot(corner, right)) / (tall * aspect));
    far = Math.max(far, dot(corner, toward) + aside);
  }
  return far * ROOM;
}

type Vec = [number, number, number];

function dot(a: Vec, b: Vec): number {
  return a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
}

/** Towards the camera, to its right and up in its picture, where z is up; each of length 1. */
function axesOf(from: Vec): [Vec, Vec, Vec] {
  const long = Math.hypot(...from);
  const toward: Vec = [from[0] / long, from[1] / long, from[2] / long];
  const flat = Math.hypot(toward[0], toward[1]);
  const right: Vec = [-toward[1] / flat, toward[0] / flat, 0];
  const up: Vec = [-toward[2] * right[1], toward[2] * right[0], flat];
  return [toward, right, up];
}
