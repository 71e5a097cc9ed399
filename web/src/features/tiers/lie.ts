import type { Edit } from "../../api/generated/Edit";
import type { ResultView } from "../../api/generated/ResultView";
import { tenths } from "./drag";

/** How a drawing lies on its plate: shifted to the right and up, mm, and turned anticlockwise, degrees. */
export interface Lie {
  x: number;
  y: number;
  turn: number;
}

export function lieOf(result: ResultView): Lie {
  const value = (name: string) => result.measures.find((m) => m.name === name)?.value ?? 0;
  return { x: value("shift-x"), y: value("shift-y"), turn: value("turn") };
}

export function lieEdits(now: Lie, was: Lie): Edit[] {
  const set = (name: string, value: number, old: number): Edit[] =>
    value === old ? [] : [{ kind: "set-measure", name, value }];
  return [
    ...set("shift-x", now.x, was.x),
    ...set("shift-y", now.y, was.y),
    ...set("turn", now.turn, was.turn),
  ];
}

/** The drawing moved on the plate by millimetres to the right and up. */
export function moved(from: Lie, right: number, up: number): Lie {
  return { ...from, x: tenths(from.x + right), y: tenths(from.y + up) };
}

/** The plate moved under the drawing, by millimetres to the right and up as the drawing is seen. */
export function movedUnder(from: Lie, right: number, up: number): Lie {
  const [sin, cos] = [Math.sin((from.turn * Math.PI) / 180), Math.cos((from.turn * Math.PI) / 180)];
  return moved(from, -(right * cos - up * sin), -(right * sin + up * cos));
}

/**
 * Where a place of the plate, `above` its middle, lies in millimetres to the right and up, as the drawing is seen. `at` is the
 * drawing's middle.
 */
export function plateAt(at: readonly number[], { x, y, turn }: Lie, above = 0): [number, number] {
  const [ax, ay] = [at[0] ?? 0, at[1] ?? 0];
  const [sin, cos] = [Math.sin((turn * Math.PI) / 180), Math.cos((turn * Math.PI) / 180)];
  const [u, v] = [-x - ax, above - y - ay];
  return [ax + u * cos + v * sin, ay - u * sin + v * cos];
}
