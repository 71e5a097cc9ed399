import { expect, it } from "vitest";
import type { ResultView } from "../../api/generated/ResultView";
import type { TierView } from "../../api/generated/TierView";
import { familyOf, fillOf, isSeen, rgb } from "./look";
import { sideNames, sideWords } from "./side-words";

function tier(change: Partial<TierView>): TierView {
  return {
    key: "body",
    role: "body",
    name: "Body",
    path: "",
    bottom: 0,
    top: 5,
    is_cut: false,
    filament: "celadon",
    colour: [169, 203, 176],
    handles: [],
    finish: null,
    ...change,
  };
}

it("shows parts in their filament only where the maker chose one", () => {
  expect(fillOf(tier({}), true)).toBe("rgb(169 203 176)");
  expect(fillOf(tier({}), false)).toBe("var(--flange)");
  expect(fillOf(tier({ is_cut: true }), true)).toBe("var(--tile)");
  expect(rgb([1, 2, 3])).toBe("rgb(1 2 3)");
});

it("gives every role a family", () => {
  expect(["flange", "body", "loop", "bar"].map(familyOf)).toEqual(Array(4).fill("flange"));
  expect(["wall", "rim", "grip"].map(familyOf)).toEqual(Array(3).fill("wall"));
  expect(familyOf("room")).toBe("room");
});

it("hides from above what is cut from below", () => {
  const body = tier({});
  const pocket = tier({ key: "pockets", is_cut: true, top: 2.2 });
  const hole = tier({ key: "hole", is_cut: true, top: 5 });
  const result = { tiers: [body, pocket, hole] } as unknown as ResultView;
  expect([body, pocket, hole].map((t) => isSeen(t, result))).toEqual([true, false, true]);
});

it("says which of the two sides is shown, in the recipe's own words", () => {
  const of = (recipe: string, is_mirrored: boolean) => ({ recipe, is_mirrored }) as unknown as ResultView;
  expect(sideNames(of("Cutter with stamp", true))).toEqual({ cookie: "cookie", tool: "tool" });
  expect(sideNames(of("Stamp", true)).cookie).toBe("print");
  expect(sideNames(of("Coaster", false))).toEqual({ cookie: "above", tool: "below" });
  expect(sideWords(of("Cutter", true), "tool")).toContain("mirrored");
  expect(sideWords(of("Token", false), "cookie")).toBe("as it reads");
});
