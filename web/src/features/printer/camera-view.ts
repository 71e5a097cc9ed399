import type { Pose } from "../../api/generated/Pose";
import type { Extent } from "../views/frame";

/** x' = a x + c y + e, y' = b x + d y + f, from millimetres (y down) to pixels of the canvas. */
export interface Matrix {
  a: number;
  b: number;
  c: number;
  d: number;
  e: number;
  f: number;
}

/** How the bed is seen; a millimetre of height is `rise` pixels. */
export interface View extends Matrix {
  rise: number;
}

/** How far the camera looks round the corner, and down. */
const ROUND = (24 * Math.PI) / 180;
const DOWN = (38 * Math.PI) / 180;
/** Room for what stands on the bed, mm. */
const ROOM = 40;

/** The bed from beside its front left corner, as large as the place allows. No lines come nearer to each other far away: heights can
 * be compared everywhere. */
export function matrixOf([w, d]: readonly [number, number], extent: Extent, dense: number): View {
  const [c, s] = [Math.cos(ROUND), Math.sin(ROUND)];
  const [flat, up] = [Math.sin(DOWN), Math.cos(DOWN)];
  const wide = w * c + d * s;
  const high = (w * s + d * c) * flat + ROOM * up;
  const k = Math.min((extent.width - 40) / wide, (extent.height - 40) / high) * dense;
  // The middle of the bed lies in the middle, a little low for what stands on it.
  const m = { a: c * k, b: s * flat * k, c: -s * k, d: c * flat * k };
  const [mx, my] = [w / 2, -d / 2];
  const e = (extent.width * dense) / 2 - m.a * mx - m.c * my;
  const f = (extent.height * dense + ROOM * up * k) / 2 - m.b * mx - m.d * my;
  return { ...m, e, f, rise: up * k };
}

/** The same so many millimetres above the bed. */
export function over(view: View, height: number): View {
  return { ...view, f: view.f - height * view.rise };
}

/** The view of something that lies on the bed in a pose of its own. */
export function posedBy(m: Matrix, at: Pose): Matrix {
  const turn = (-at.degrees * Math.PI) / 180;
  const [c, s] = [Math.cos(turn), Math.sin(turn)];
  return {
    a: m.a * c + m.c * s,
    b: m.b * c + m.d * s,
    c: m.c * c - m.a * s,
    d: m.d * c - m.b * s,
    e: m.a * at.x - m.c * at.y + m.e,
    f: m.b * at.x - m.d * at.y + m.f,
  };
}
