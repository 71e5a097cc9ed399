import { expect, test } from "vitest";
import type { FindingView } from "../../api/generated/FindingView";
import { looksOf } from "./looks";

const finding = (what: string, heights: ([number, number] | null)[]): FindingView => ({
  code: "overhang",
  what,
  weight: "poor",
  why: "",
  place: null,
  places: heights.map((h) => ({ path: "M0 0Z", heights: h })),
  figures: [],
  mends: [],
  is_accepted: false,
});

test("places with a height come in the order of their layers", () => {
  const tops = [0.2, 0.4, 0.6000000000000001, 0.8];
  const looks = looksOf([finding("high", [[0.6, 0.8], null]), finding("low", [[0, 0.8]])], tops);
  expect(looks.map((l) => [l.what, l.layer, l.finding, l.place])).toEqual([
    ["low", 1, 1, 0],
    ["high", 4, 0, 0],
  ]);
  expect(looksOf([finding("above", [[9, 10]])], tops)[0]?.layer).toBe(4);
});
