import type { Edit } from "../../api/generated/Edit";
import type { Filament } from "../../api/generated/Filament";
import type { Finish } from "../../api/generated/Finish";
import type { OwnTier } from "../../api/generated/OwnTier";
import type { PatchView } from "../../api/generated/PatchView";
import type { RecipeKind } from "../../api/generated/RecipeKind";
import type { SwatchView } from "../../api/generated/SwatchView";
import type { TierView } from "../../api/generated/TierView";
import { isCutter } from "../../api/recipe";
import { spotOf } from "./tools/tool";

const hex = (c: readonly number[]) => c.map((v) => v.toString(16).padStart(2, "0")).join("");
const same = (a: readonly number[] | null, b: readonly number[]) => a !== null && hex(a) === hex(b);

/** A filament for each colour of the picture that is in use: the nearest one, or a new one in its colour. */
export function filamentsFor(
  palette: readonly SwatchView[],
  patches: readonly PatchView[],
  usual: Filament | undefined,
): { of: { swatch: SwatchView; filament: string }[]; missing: Filament[] } {
  const inUse = palette.filter(
    (s) => !s.is_ground && patches.some((p) => p.is_ink && p.use !== "aside" && same(p.colour, s.colour)),
  );
  const missing: Filament[] = [];
  const of = inUse.map((swatch) => {
    if (swatch.filament) return { swatch, filament: swatch.filament };
    const id = `colour-${hex(swatch.colour)}`;
    missing.push({
      id,
      name: `Colour ${hex(swatch.colour)}`,
      material: usual?.material ?? "PLA",
      colour: swatch.colour,
      density: usual?.density ?? 1.24,
      price: usual?.price ?? 22,
    });
    return { swatch, filament: id };
  });
  return { of, missing };
}

/** Every patch in the filament of its colour. What shapes the edge of a body is drawn on it too, or its colour would be lost. */
export function paintByColour(
  of: readonly { swatch: SwatchView; filament: string }[],
  patches: readonly PatchView[],
  recipe: RecipeKind,
): Edit[] {
  const paints = of.flatMap(({ swatch, filament }) =>
    patches
      .filter((p) => p.is_ink && p.use !== "aside" && same(p.colour, swatch.colour))
      .map((p) => ({ spot: spotOf(p), filament })),
  );
  const choices = isCutter(recipe)
    ? []
    : patches
        .filter((p) => p.is_ink && p.use === "edge" && p.colour !== null)
        .map((p) => ({ spot: spotOf(p), use: "both" as const }));
  return [
    { kind: "paint-patches", paints },
    ...(choices.length > 0 ? [{ kind: "set-uses" as const, choices }] : []),
  ];
}

/** What carries the drawing, and so prints in the colour of what shapes its edge. */
const BASE: ReadonlySet<string> = new Set(["body", "rim", "bar", "loop"]);

/**
 * The base takes the colour of the largest patch that shapes the edge, or a logo of four colours would need a fifth filament.
 * A plate of its own form keeps its filament, and so does a tier whose filament was chosen.
 */
export function baseByColour(
  of: readonly { swatch: SwatchView; filament: string }[],
  patches: readonly PatchView[],
  tiers: readonly Pick<TierView, "key" | "role" | "is_cut">[],
  chosen: Record<string, string>,
): Edit[] {
  const edge = patches
    .filter((p) => p.is_ink && (p.use === "edge" || p.use === "both"))
    .sort((a, b) => (b.area ?? 0) - (a.area ?? 0))[0];
  const filament = of.find((o) => same(edge?.colour ?? null, o.swatch.colour))?.filament;
  if (!filament) return [];
  return tiers
    .filter((t) => BASE.has(t.role) && !t.is_cut && !(t.key in chosen))
    .map((t) => ({ kind: "set-filament", key: t.key, filament }));
}

const SQUARE: Finish = { shape: "square", way: "inward", edges: "both", inset: 0, depth: 0 };

/**
 * A base of the edge and a tier for each colour on it, in its filament: all equally high, or each a step higher than the one
 * before, the largest colour lowest. The recipe's own details go where there is a way to leave them out.
 */
export function tiersByColour(
  of: readonly { swatch: SwatchView; filament: string; name: string }[],
  patches: readonly PatchView[],
  at: { next: number; base: number; step: number; isStepped: boolean },
): Edit[] {
  const tiers = [...of].sort((a, b) => b.swatch.share - a.swatch.share);
  return tiers.flatMap(({ swatch, filament, name }, k) => {
    const id = at.next + k;
    const tier: OwnTier = {
      id: 0,
      name,
      footprint: {
        of: "patches",
        patches: patches
          .filter((p) => p.is_ink && p.use !== "aside" && same(p.colour, swatch.colour))
          .map(spotOf),
      },
      grow: 0,
      rim: null,
      from: at.base,
      to: Math.round((at.base + at.step * (at.isStepped ? k + 1 : 1)) * 100) / 100,
      is_cut: false,
      top: SQUARE,
      bottom: SQUARE,
      is_on: true,
    };
    return [
      { kind: "add-tier", tier },
      { kind: "set-filament", key: `own-${id}`, filament },
    ] satisfies Edit[];
  });
}
