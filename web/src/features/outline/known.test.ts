import { describe, expect, it } from "vitest";
import shared from "../../../../crates/outline/tests/shared/spots.json";
import type { PatchView } from "../../api/generated/PatchView";
import type { Root } from "../../api/generated/Root";
import type { Spot } from "../../api/generated/Spot";
import { followed, isWithinPath, patchAt } from "./known";

interface Table {
  patches: { name: string; rings: [number, number][][]; is_ink: boolean; depth: number; root?: Root }[];
  spots: { why: string; spot: Spot; is: number | null }[];
}

const table = shared as unknown as Table;

const patches = table.patches.map((p): PatchView => {
  const outer = p.rings[0] ?? [];
  const of = (k: 0 | 1, f: (...n: number[]) => number) => f(...outer.map((q) => q[k]));
  const span: PatchView["span"] = [of(0, Math.min), of(1, Math.min), of(0, Math.max), of(1, Math.max)];
  return {
    at: [0, 0],
    is_ink: p.is_ink,
    use: "detail",
    depth: p.depth,
    parent: null,
    area: (span[2] - span[0]) * (span[3] - span[1]),
    perimeter: null,
    span,
    is_pinned: false,
    path: p.rings.map((r) => `M${r.map((q) => q.join(" ")).join("L")}Z`).join(""),
    colour: null,
    filament: null,
    group: null,
    root: p.root ?? null,
  };
});

describe("a spot names the same patch here as in the core", () => {
  it.each(table.spots)("$why", ({ spot, is }) => {
    expect(patchAt(patches, spot)).toBe(is);
  });
});

it("curves are looked at as curves", () => {
  const disc =
    "M10 0C10 5.52 5.52 10 0 10C-5.52 10 -10 5.52 -10 0C-10 -5.52 -5.52 -10 0 -10C5.52 -10 10 -5.52 10 0Z";
  expect(isWithinPath(disc, [6.9, 6.9])).toBe(true);
  expect(isWithinPath(disc, [7.3, 7.3])).toBe(false);
});

describe("a chosen patch", () => {
  it("is known wherever it is moved to", () => {
    const patch = (x: number): PatchView => ({
      at: [x, 0],
      is_ink: true,
      use: "edge",
      depth: 0,
      parent: null,
      area: 1,
      perimeter: null,
      span: [x - 5, -5, x + 5, 5],
      is_pinned: false,
      path: `M${x - 5} -5L${x + 5} -5L${x + 5} 5L${x - 5} 5Z`,
      colour: null,
      filament: null,
      group: null,
      root: null,
    });
    const spot = followed(patch(0));
    const far = { ...patch(300), root: spot.root ?? null };
    expect(patchAt([patch(40), far], spot)).toBe(1);
  });
});
