import type { Px } from "../artwork/frame";

/** Millimetres from the place of a text or a shape, to its right and above it as it is turned. */
export type Local = [right: number, up: number];

/** From its place on the picture, in pixels: `degrees` is how far it is turned anticlockwise, `mm` the length of a pixel. */
export function atLocal([right, up]: Local, degrees: number, mm: number): Px {
  const a = (degrees * Math.PI) / 180;
  return [(right * Math.cos(a) - up * Math.sin(a)) / mm, (-right * Math.sin(a) - up * Math.cos(a)) / mm];
}

/** The other way round. */
export function localOf([x, y]: Px, degrees: number, mm: number): Local {
  const a = (degrees * Math.PI) / 180;
  return [(x * Math.cos(a) - y * Math.sin(a)) * mm, (-x * Math.sin(a) - y * Math.cos(a)) * mm];
}

/** The turn at which what stands above the place points at `to`, in whole steps within half a turn either way. */
export function turnedTo(degrees: number, [right, up]: Local, step: number): number {
  const by = (Math.atan2(-right, up) * 180) / Math.PI;
  const whole = Math.round((degrees + by) / step) * step;
  return ((((whole + 180) % 360) + 360) % 360) - 180;
}

/** The point of a base line that runs along an arc, so far along it; a radius of 0 is straight. */
export function bow(arc: number, along: number): Local {
  return arc === 0 ? [along, 0] : [arc * Math.sin(along / arc), arc * Math.cos(along / arc) - arc];
}

/** Radii that a text may be bent by, mm. */
const [LEAST, MOST] = [1, 400];

/**
 * The radius of the base line that leaves the foot level and goes through a point beside it: 0, which is straight, where that lies less than
 * 2 pixels off, or on a wider arc than there is. `px` is a pixel in millimetres.
 */
export function bentBy([right, up]: Local, px: number): number {
  const down = -up;
  if (Math.abs(down) < 2 * px) return 0;
  const radius = (right * right + down * down) / (2 * down);
  if (Math.abs(radius) > MOST) return 0;
  return Math.sign(radius) * Math.max(LEAST, Math.round(Math.abs(radius) * 10) / 10);
}
