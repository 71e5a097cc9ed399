import { describe, expect, it } from "vitest";
import type { PatchView } from "../../../api/generated/PatchView";
import { doubled, drawnUse, placed, spotOf, spotsOf, withInside, withPins } from "./tool";

const patch = (span: [number, number, number, number], more: Partial<PatchView> = {}): PatchView => ({
  at: [(span[0] + span[2]) / 2, (span[1] + span[3]) / 2],
  is_ink: true,
  use: "edge",
  depth: 0,
  parent: null,
  area: (span[2] - span[0]) * (span[3] - span[1]),
  perimeter: null,
  span,
  is_pinned: false,
  path: "",
  colour: null,
  filament: null,
  group: null,
  root: null,
  ...more,
});

it("what lies inside a patch goes along with it, however deep", () => {
  const patches = [null, 0, 1, 0, null, 4].map((parent) => ({ parent }) as PatchView);
  expect(withInside(patches, [1])).toEqual([1, 2]);
  expect(withInside(patches, [4, 3])).toEqual([4, 3, 5]);
  expect(withInside(patches, [0, 2]).sort()).toEqual([0, 1, 2, 3]);
});

describe("a patch is told by all that it can be known again by", () => {
  const plain = patch([0, 0, 10, 20], { depth: 2 });

  it("its point, its kind, its box and its nesting", () => {
    expect(spotOf(plain)).toEqual({
      at: [5, 10],
      is_ink: true,
      like: { span: [0, 0, 10, 20], depth: 2 },
    });
  });

  it("and where it comes from, if it is not as traced", () => {
    const root = { from: "made" as const, by: 7, nth: 1 };
    expect(spotOf({ ...plain, root }).root).toEqual(root);
  });

  it("places in the list that are none are left out", () => {
    expect(spotsOf([plain], [0, 4])).toHaveLength(1);
  });
});

describe("changes that are made of patches", () => {
  const on = [spotOf(patch([0, 0, 10, 10]))];

  it("move nothing unless they are told to", () => {
    expect(placed(on)).toMatchObject({ do: "place", by: [0, 0], degrees: 0, scale: 1, is_copy: false });
    expect(placed(on, { degrees: 90 }).degrees).toBe(90);
  });

  it("double five millimetres beside", () => {
    expect(doubled(on, 0.5)).toMatchObject({ by: [10, 10], is_copy: true });
  });

  it("pin beside what is pinned already, or let go", () => {
    const [a, b] = [patch([0, 0, 1, 1], { is_pinned: true }), patch([5, 5, 9, 9])];
    const both = withPins([a, b], [b], true);
    expect(both.kind === "set-pins" && both.pins.map((p) => p.at)).toEqual([a.at, b.at]);
    const none = withPins([a, b], [a], false);
    expect(none.kind === "set-pins" && none.pins).toEqual([]);
  });
});

describe("a line drawn by hand", () => {
  it("shapes the edge where nothing does or outside of it, and is a detail within", () => {
    const line: [number, number][] = [
      [2, 2],
      [6, 2],
      [4, 6],
    ];
    expect(drawnUse([], line)).toBe("edge");
    expect(drawnUse([patch([0, 0, 10, 20])], line)).toBe("detail");
    expect(drawnUse([patch([20, 0, 30, 20])], line)).toBe("edge");
    expect(drawnUse([patch([0, 0, 10, 20], { use: "aside" })], line)).toBe("edge");
  });
});
