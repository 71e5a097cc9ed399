import { expect, it } from "vitest";
import type { TierView } from "../../api/generated/TierView";
import { spoolsOf } from "./stack";

it("a line of the stack names every filament that its patches print in, once", () => {
  const tier = (key: string, filament: string, colour: number[], isCut = false) =>
    ({ key, filament, colour, is_cut: isCut }) as unknown as TierView;
  const red = tier("details", "red", [200, 0, 0]);
  const tiers = [
    tier("plate", "grey", [9, 9, 9]),
    red,
    tier("details", "blue", [0, 0, 200]),
    tier("details", "red", [200, 0, 0]),
    tier("details", "grey", [9, 9, 9], true),
  ];
  expect(spoolsOf(tiers, red)).toEqual(["rgb(200 0 0)", "rgb(0 0 200)"]);
});
