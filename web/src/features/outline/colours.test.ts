import { describe, expect, it } from "vitest";
import type { PatchView } from "../../api/generated/PatchView";
import type { SwatchView } from "../../api/generated/SwatchView";
import { baseByColour, filamentsFor, paintByColour, tiersByColour } from "./colours";

const patch = (colour: [number, number, number] | null, use: PatchView["use"], x: number): PatchView => ({
  at: [x, 0],
  is_ink: true,
  use,
  depth: 0,
  parent: null,
  area: 1,
  perimeter: null,
  span: [x, 0, x + 1, 1],
  is_pinned: false,
  path: "",
  colour,
  filament: null,
  group: null,
  root: null,
});
const swatch = (colour: [number, number, number], share: number, filament: string | null): SwatchView => ({
  colour,
  share,
  is_ground: false,
  filament,
});
const RED: [number, number, number] = [200, 0, 0];
const BLUE: [number, number, number] = [0, 0, 200];
const palette = [
  { ...swatch([255, 255, 255], 0.5, null), is_ground: true },
  swatch(RED, 0.1, null),
  swatch(BLUE, 0.3, "cobalt"),
  swatch([9, 9, 9], 0.1, "soot"),
];
const patches = [patch(BLUE, "edge", 0), patch(RED, "detail", 5), patch([9, 9, 9], "aside", 9)];

describe("colours to filaments", () => {
  const { of, missing } = filamentsFor(palette, patches, undefined);

  it("takes the nearest filament, or a new one in the picture's colour, for what is in use", () => {
    expect(of.map((o) => o.filament)).toEqual(["colour-c80000", "cobalt"]);
    expect(missing.map((f) => [f.id, f.colour])).toEqual([["colour-c80000", RED]]);
  });

  it("paints every patch, and draws the edge too where its colour would be lost", () => {
    const [paint, uses] = paintByColour(of, patches, "key-tag");
    expect(paint).toMatchObject({ paints: [{ filament: "colour-c80000" }, { filament: "cobalt" }] });
    expect(uses).toMatchObject({ choices: [{ use: "both", spot: { at: [0, 0] } }] });
    expect(paintByColour(of, patches, "cutter")).toHaveLength(1);
  });

  it("gives the base the colour of its edge, but not a tier whose filament was chosen", () => {
    const tiers = ["body", "rim", "detail"].map((role) => ({ key: role, role, is_cut: false }));
    const rest = patches.map((p) => ({ ...p, use: "detail" as const }));
    expect(baseByColour(of, patches, tiers, { rim: "soot" })).toEqual([
      { kind: "set-filament", key: "body", filament: "cobalt" },
    ]);
    expect(baseByColour(of, rest, tiers, {})).toEqual([]);
  });

  it("makes a tier of each colour, the largest lowest", () => {
    const named = of.map((o) => ({ ...o, name: o.filament }));
    const at = { next: 4, base: 2, step: 0.6, isStepped: true };
    const edits = tiersByColour(named, patches, at);
    const tiers = edits.flatMap((e) => (e.kind === "add-tier" ? [e.tier] : []));
    expect(tiers.map((t) => [t.name, t.from, t.to])).toEqual([
      ["cobalt", 2, 2.6],
      ["colour-c80000", 2, 3.2],
    ]);
    expect(edits[1]).toEqual({ kind: "set-filament", key: "own-4", filament: "cobalt" });
    expect(edits[3]).toMatchObject({ key: "own-5" });
    const flat = tiersByColour(named, patches, { ...at, isStepped: false });
    expect(flat.flatMap((e) => (e.kind === "add-tier" ? [e.tier.to] : []))).toEqual([2.6, 2.6]);
  });
});
