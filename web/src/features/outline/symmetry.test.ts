import { describe, expect, it } from "vitest";
import { cubicsOf } from "./lines";
import { axisOf, mirrorLine, straightSide } from "./symmetry";

/** Whether a place lies on the left of a mirror line, y down. */
const isLeft = ([x, y]: [number, number], line: { through: readonly number[]; degrees: number }) => {
  const a = (line.degrees * Math.PI) / 180;
  const [dx, dy] = [x - (line.through[0] ?? 0), y - (line.through[1] ?? 0)];
  return -dx * Math.sin(a) - dy * Math.cos(a) > 0;
};

describe("where a half is mirrored", () => {
  it("is its straight side, the drawn part on the side that stays", () => {
    const left = cubicsOf("M50 0C20 10 10 30 10 50C10 80 30 95 50 100Z");
    const line = straightSide(left);
    expect(line).toMatchObject({ degrees: 90, through: [50, 50] });
    expect(line && isLeft([20, 50], line)).toBe(true);
    const lower = cubicsOf("M0 40L100 40C90 80 60 90 50 70C40 90 10 80 0 40Z");
    const level = straightSide(lower);
    expect(level?.through[1]).toBe(40);
    expect(level && isLeft([50, 60], level)).toBe(true);
  });

  it("may be slanted, and in several pieces", () => {
    // Half of a star, cut along a line of 30 degrees: three pieces of it lie on the line.
    const on = (t: number, off: number) =>
      [100 * t * Math.cos(Math.PI / 6) + off * 0.5, -100 * t * 0.5 + off * Math.cos(Math.PI / 6)].join(" ");
    const path = `M${on(0, 0)}L${on(0.2, 0)}L${on(0.3, 12)}L${on(0.4, 0)}L${on(0.6, 0)}L${on(0.7, 12)}L${on(0.8, 0)}L${on(1, 0)}L${on(0.9, 40)}L${on(0.1, 40)}Z`;
    const line = straightSide(cubicsOf(path));
    expect([30, 210]).toContain(line?.degrees);
    expect(line && isLeft([43.3 + 20, -25 + 34], line)).toBe(true);
  });

  it("is no straight side of what is whole already", () => {
    const square = mirrorLine(cubicsOf("M0 0L40 0L40 40L0 40Z"), [1, 1]);
    expect(square).toEqual({ through: [20, 20], degrees: 90 });
    const halfDisc = cubicsOf("M50 0C20 0 0 20 0 50C0 80 20 100 50 100Z");
    expect(mirrorLine(halfDisc, [1, 1])).toMatchObject({ through: [50, 50], degrees: 90 });
  });

  it("is an axis where nothing is straight, or upright through the middle where there is none", () => {
    const oval = cubicsOf("M0 20C0 5 20 0 40 0C60 0 80 5 80 20C80 35 60 40 40 40C20 40 0 35 0 20Z");
    const axis = axisOf(oval);
    expect(axis?.degrees).toBe(90);
    expect(axis?.through[0]).toBeCloseTo(40, 3);
    const bean = cubicsOf("M0 20C0 0 30 -10 60 5C95 20 70 60 60 35C50 20 40 60 20 50C5 45 0 35 0 20Z");
    expect(axisOf(bean)).toBe(null);
    expect(mirrorLine(bean, [7, 8])).toEqual({ through: [7, 8], degrees: 90 });
  });
});
