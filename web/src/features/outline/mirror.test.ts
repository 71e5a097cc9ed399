import { describe, expect, it } from "vitest";
import type { Change } from "../../api/generated/Change";
import { atNextEnd } from "./mirror";

describe("a drawn part made whole", () => {
  const like = (span: [number, number, number, number]) => ({ span, depth: 0 });
  const on = [
    { at: [20, 20] as [number, number], is_ink: true, like: like([10, 10, 30, 40]) },
    { at: [50, 50] as [number, number], is_ink: true, like: like([40, 20, 90, 60]) },
  ];
  const half: Extract<Change, { do: "mirror" }> = {
    do: "mirror",
    on,
    through: [1, 1],
    degrees: 270,
    is_quarter: false,
  };

  it("goes round the four edges of its box, all of it on the kept side", () => {
    let change = half;
    const seen = [0, 1, 2, 3].map(() => {
      change = atNextEnd(change);
      return [change.degrees, ...change.through];
    });
    expect(seen).toEqual([
      [0, 50, 60],
      [90, 90, 35],
      [180, 50, 10],
      [270, 10, 35],
    ]);
    for (const [degrees = 0, x = 0, y = 0] of seen) {
      const a = (degrees * Math.PI) / 180;
      // The middle of the box, y down, lies on the left of the line, or on it.
      const left = -((50 - x) * Math.sin(a)) - (35 - y) * Math.cos(a);
      expect(left).toBeGreaterThan(0);
    }
  });

  it("goes round the four corners of a quarter", () => {
    let change = { ...half, is_quarter: true };
    const seen = [0, 1, 2, 3].map(() => {
      change = atNextEnd(change);
      return change.through;
    });
    expect(seen).toEqual([
      [10, 60],
      [90, 60],
      [90, 10],
      [10, 10],
    ]);
  });

  it("stays where the box is not known", () => {
    const bare = { ...half, on: [{ at: [0, 0] as [number, number], is_ink: true }] };
    expect(atNextEnd(bare)).toEqual(bare);
  });
});
