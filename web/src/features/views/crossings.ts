import type { MmPoint } from "../../api/generated/MmPoint";
import { cubicsOf } from "../outline/lines";

/** The point of the cutting line that lies `t` mm along it, in the plan's world. */
export function onLine(t: number, section: number, turned: number): MmPoint {
  const a = (turned * Math.PI) / 180;
  return [t * Math.cos(a), -section - t * Math.sin(a)];
}

/** How far along the cutting line, mm as the picture reads, it crosses a path that is mirrored like the tiers. */
export function crossings(path: string, isMirrored: boolean, section: number, turned: number): number[] {
  const a = (turned * Math.PI) / 180;
  // Off the line and along it, of a corner of the path.
  const seen = ([x, y]: MmPoint): MmPoint => {
    const p = isMirrored ? -x : x;
    return [p * Math.sin(a) + (y + section) * Math.cos(a), p * Math.cos(a) - (y + section) * Math.sin(a)];
  };
  return cubicsOf<MmPoint>(path).flatMap(([p, , , q]) => {
    const [[u, s], [v, t]] = [seen(p), seen(q)];
    return u > 0 !== v > 0 ? [s + ((t - s) * u) / (u - v)] : [];
  });
}

/** Where the section has to run, mm above the middle, to go through the middle of a path. */
export function sectionThrough(path: string): number | null {
  const ys = cubicsOf<MmPoint>(path).map(([p]) => p[1]);
  return ys.length === 0 ? null : -(Math.min(...ys) + Math.max(...ys)) / 2;
}
