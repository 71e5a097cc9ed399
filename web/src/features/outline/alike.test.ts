import { describe, expect, it } from "vitest";
import type { PatchView } from "../../api/generated/PatchView";
import { alike, allOf } from "./alike";

const patch = (more: Partial<PatchView>): PatchView => ({
  at: [0, 0],
  is_ink: true,
  use: "detail",
  depth: 0,
  parent: null,
  area: 10,
  perimeter: null,
  span: [0, 0, 1, 1],
  is_pinned: false,
  path: "",
  colour: null,
  filament: null,
  group: null,
  root: null,
  ...more,
});

describe("all like this", () => {
  const patches = [
    patch({ area: 100, use: "edge", colour: [1, 2, 3] }),
    patch({ area: 10, parent: 0, colour: [9, 9, 9] }),
    patch({ area: 12, parent: 0, colour: [1, 2, 3] }),
    patch({ area: 30, parent: 0, is_ink: false, use: "aside" }),
    patch({ area: 11, parent: 3, colour: [9, 9, 9] }),
  ];

  it("goes by colour, size, nesting or use", () => {
    expect(alike(patches, [1], "colour")).toEqual([1, 4]);
    expect(alike(patches, [1], "size")).toEqual([1, 2, 4]);
    expect(alike(patches, [1], "inside")).toEqual([1, 2]);
    expect(alike(patches, [2], "smaller")).toEqual([1, 2, 4]);
    expect(alike(patches, [3], "within")).toEqual([3, 4]);
    expect(alike(patches, [1], "use")).toEqual([1, 2, 4]);
    expect(alike(patches, [0, 3], "size")).toEqual([0, 3]);
    expect(alike(patches, [], "use")).toEqual([]);
  });

  it("leaves unused gaps out of all", () => {
    expect(allOf(patches)).toEqual([0, 1, 2, 4]);
  });
});
