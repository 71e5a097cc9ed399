import type { PxPoint } from "../../api/generated/PxPoint";

/** A point in pixels. */
export type Px = PxPoint;

/** A projective map, by rows. */
export function apply(m: readonly number[], [x, y]: Px): Px {
  const at = (k: number) => m[k] ?? 0;
  const w = at(6) * x + at(7) * y + at(8);
  return [(at(0) * x + at(1) * y + at(2)) / w, (at(3) * x + at(4) * y + at(5)) / w];
}

/** How many pixels of the original one pixel of the prepared picture is at a place. */
export function scaleAt(m: readonly number[], p: Px): number {
  const o = apply(m, p);
  const right = apply(m, [p[0] + 1, p[1]]);
  const down = apply(m, [p[0], p[1] + 1]);
  const area = (right[0] - o[0]) * (down[1] - o[1]) - (right[1] - o[1]) * (down[0] - o[0]);
  return Math.sqrt(Math.abs(area)) || 1;
}

/** Degrees clockwise that make the line from `a` to `b` level or upright, whichever is nearer. */
export function degreesToStraight(a: Px, b: Px): number {
  const angle = (Math.atan2(b[1] - a[1], b[0] - a[0]) * 180) / Math.PI;
  const off = ((((angle + 45) % 90) + 90) % 90) - 45;
  return -off;
}

/** Leaves out points of a stroke that lie within `tolerance` of the line through their neighbours. */
export function thinned(points: Px[], tolerance: number): Px[] {
  const out: Px[] = [];
  for (const p of points) {
    const [a, b] = [out.at(-2), out.at(-1)];
    if (a && b) {
      const [dx, dy] = [p[0] - a[0], p[1] - a[1]];
      const off = Math.abs((b[0] - a[0]) * dy - (b[1] - a[1]) * dx) / (Math.hypot(dx, dy) || 1);
      const isBetween = (b[0] - a[0]) * dx + (b[1] - a[1]) * dy > 0;
      if (off < tolerance && isBetween) out.pop();
    }
    out.push(p);
  }
  return out;
}

/** End points of the pieces of SVG path data made of M, L, C and Z. */
export function nodesOf(path: string): Px[] {
  const out: Px[] = [];
  for (const [, command, numbers] of path.matchAll(/([MLC])([^MLCZ]*)/g)) {
    const all = (numbers ?? "")
      .trim()
      .split(/[\s,]+/)
      .map(Number);
    const [x, y] = command === "C" ? [all[4], all[5]] : [all[0], all[1]];
    if (x !== undefined && y !== undefined) out.push([x, y]);
  }
  return out;
}

export const css = ([r, g, b]: readonly number[]) => `rgb(${r} ${g} ${b})`;

export const sameColour = (a: readonly number[], b: readonly number[]) => a.every((v, k) => v === b[k]);
