import type { Px } from "../artwork/frame";
import { type Cubic, distance, nearestOn, pointOn } from "./lines";

/** A mirror line: a point of it, and its direction in degrees anticlockwise as the picture reads; what lies on its left stays. */
export interface MirrorLine {
  through: Px;
  degrees: number;
}

const isStraight = ([a, b, c, d]: Cubic) => distance(a, b) < 1e-9 && distance(c, d) < 1e-9;
/** Directions this near to a multiple of 15 degrees are meant to be it. */
const MEANT = 0.4;

function meant(degrees: number): number {
  const round = Math.round(degrees / 15) * 15;
  const d = Math.abs(degrees - round) < MEANT ? round : degrees;
  return ((d % 360) + 360) % 360;
}

function pointsOf(pieces: readonly Cubic[]): Px[] {
  return pieces.flatMap((c) =>
    isStraight(c) ? [c[0], mixed(c)] : [0, 0.25, 0.5, 0.75].map((t) => pointOn(c, t)),
  );
}

const mixed = (c: Cubic): Px => [(c[0][0] + c[3][0]) / 2, (c[0][1] + c[3][1]) / 2];

function box(points: readonly Px[]) {
  const [xs, ys] = [points.map((p) => p[0]), points.map((p) => p[1])];
  return { left: Math.min(...xs), right: Math.max(...xs), top: Math.min(...ys), bottom: Math.max(...ys) };
}

/** The straight side of a drawn half: the line along which most of its border lies, with all of it on one side. */
export function straightSide(pieces: readonly Cubic[]): MirrorLine | null {
  const points = pointsOf(pieces);
  if (points.length < 3) return null;
  const b = box(points);
  const size = Math.hypot(b.right - b.left, b.bottom - b.top);
  const near = Math.max(0.5, size * 0.004);
  let best: { along: number; line: MirrorLine } | null = null;
  const straight = pieces.filter((c) => isStraight(c) && distance(c[0], c[3]) > size * 0.02);
  for (const [p, , , q] of straight) {
    const long = distance(p, q);
    const [ux, uy] = [(q[0] - p[0]) / long, (q[1] - p[1]) / long];
    const off = ([x, y]: Px) => (x - p[0]) * uy - (y - p[1]) * ux;
    const offs = points.map(off);
    const [low, high] = [Math.min(...offs), Math.max(...offs)];
    if (low < -near && high > near) continue;
    // Pieces of the same line count together: a half of a star has as many as it has arms on its edge.
    const along = straight
      .filter((c) => Math.abs(off(c[0])) < near && Math.abs(off(c[3])) < near)
      .reduce((sum, c) => sum + distance(c[0], c[3]), 0);
    if (along <= (best?.along ?? size * 0.15)) continue;
    // Seen along its direction, y up, what lies on the left has a positive `off`.
    const angle = (Math.atan2(-uy, ux) * 180) / Math.PI;
    best = {
      along,
      line: { through: mixed([p, p, q, q]), degrees: meant(high > near ? angle : angle + 180) },
    };
  }
  return best?.line ?? null;
}

/** Mean distance of mirrored points from the border, by the size, under which a shape counts as symmetric. */
const SYMMETRIC = 0.012;

/** Whether a shape is nearly symmetric about a line through its middle. */
export function symmetryOf(pieces: readonly Cubic[]): { through: Px; isAbout: (degrees: number) => boolean } {
  const points = pointsOf(pieces);
  const b = box(points);
  const size = Math.hypot(b.right - b.left, b.bottom - b.top);
  const through = centroidOf(points);
  const some = points.filter((_, i) => i % Math.ceil(points.length / 60) === 0);
  const isAbout = (degrees: number) => {
    const a = (-2 * degrees * Math.PI) / 180;
    const [cos, sin] = [Math.cos(a), Math.sin(a)];
    const far = some.map(([x, y]) => {
      const [dx, dy] = [x - through[0], y - through[1]];
      const q: Px = [through[0] + dx * cos + dy * sin, through[1] + dx * sin - dy * cos];
      return Math.min(...pieces.map((c) => nearestOn(c, q).off));
    });
    return far.reduce((s, d) => s + d, 0) / far.length / size < SYMMETRIC;
  };
  return { through, isAbout };
}

/** The axis about which a shape is nearly symmetric; an upright one before others. */
export function axisOf(pieces: readonly Cubic[]): MirrorLine | null {
  if (pieces.length < 3) return null;
  const { through, isAbout } = symmetryOf(pieces);
  const degrees = [90, 0, 45, 135, 60, 120, 30, 150, 75, 105, 15, 165].find(isAbout);
  return degrees === undefined ? null : { through, degrees };
}

/** The middle of a closed border by its area (shoelace). */
function centroidOf(points: readonly Px[]): Px {
  let [a, x, y] = [0, 0, 0];
  points.forEach((p, i) => {
    const q = points[(i + 1) % points.length] ?? p;
    const cross = p[0] * q[1] - q[0] * p[1];
    a += cross;
    x += (p[0] + q[0]) * cross;
    y += (p[1] + q[1]) * cross;
  });
  const [first = [0, 0] as Px] = points;
  return Math.abs(a) < 1e-9 ? first : [x / (3 * a), y / (3 * a)];
}

/**
 * Across which line patches are mirrored first: the straight side of a half, else an axis of theirs, else upright through
 * `middle`. What is symmetric along its straight side, as a rectangle is, is no half.
 */
export function mirrorLine(pieces: readonly Cubic[], middle: Px): MirrorLine {
  const side = straightSide(pieces);
  const isHalf = side !== null && !symmetryOf(pieces).isAbout(side.degrees);
  return (isHalf ? side : axisOf(pieces)) ?? { through: middle, degrees: 90 };
}
