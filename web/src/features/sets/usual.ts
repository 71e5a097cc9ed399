import type { Edit } from "../../api/generated/Edit";
import type { MeasureView } from "../../api/generated/MeasureView";
import type { MemberTier } from "../../api/generated/MemberTier";
import type { RecipeKind } from "../../api/generated/RecipeKind";
import type { SetMember } from "../../api/generated/SetMember";
import { chosenOf } from "../tiers/chosen-of";

/** What most designs of a set have in common. */
export interface Usual {
  recipe: RecipeKind;
  measures: MeasureView[];
  tiers: MemberTier[];
}

/** The value that comes most often, of equally frequent ones the first. */
export function mostOften<T>(values: readonly T[]): T | undefined {
  const counts = new Map<T, number>();
  for (const v of values) counts.set(v, (counts.get(v) ?? 0) + 1);
  let best: T | undefined;
  for (const [v, n] of counts) if (best === undefined || n > (counts.get(best) ?? 0)) best = v;
  return best;
}

/** What most have in common; undefined for none at all. */
export function usualOf(members: readonly SetMember[]): Usual | undefined {
  const recipe = mostOften(members.map((m) => m.recipe));
  const same = members.filter((m) => m.recipe === recipe);
  const first = same[0];
  if (recipe === undefined || !first) return undefined;
  const measures = first.measures.map((of, k) => {
    const value = mostOften(same.map((m) => m.measures[k]?.value ?? of.value));
    return same.find((m) => m.measures[k]?.value === value)?.measures[k] ?? of;
  });
  const keys = [...new Set(same.flatMap((m) => m.tiers.map((t) => t.key)))];
  const tiers = keys.flatMap((key) => {
    const all = same.flatMap((m) => m.tiers.filter((t) => t.key === key));
    const filament = mostOften(all.map((t) => t.filament));
    return all[0] && filament !== undefined ? [{ ...all[0], filament }] : [];
  });
  return { recipe, measures, tiers };
}

/** The edit that gives a design all of these measures. */
export function measuresOf({ recipe, measures }: Usual): Edit {
  const own = measures.filter((m) => m.value !== m.default);
  return { kind: "set-measures", recipe, measures: Object.fromEntries(own.map((m) => [m.name, m.value])) };
}

/** Something in which a design is not as the others, and the edits that make it so. */
export interface Differs {
  what: "recipe" | "measure" | "filament";
  /** The measure's name or the tier's key. */
  name: string;
  edits: Edit[];
}

/** In what a design differs from what is usual. One of another recipe has other measures: they are not compared. */
export function differsIn(m: SetMember, usual: Usual): Differs[] {
  if (m.recipe !== usual.recipe) {
    return [
      {
        what: "recipe",
        name: usual.recipe,
        edits: [{ kind: "set-recipe", recipe: usual.recipe }, measuresOf(usual)],
      },
    ];
  }
  const measures = usual.measures
    .filter((u) => m.measures.some((own) => own.name === u.name && own.value !== u.value))
    .map(
      (u): Differs => ({
        what: "measure",
        name: u.name,
        edits: [{ kind: "set-measure", name: u.name, value: chosenOf(u) }],
      }),
    );
  const filaments = usual.tiers
    .filter((u) => m.tiers.some((own) => own.key === u.key && own.filament !== u.filament))
    .map(
      (u): Differs => ({
        what: "filament",
        name: u.key,
        edits: [{ kind: "set-filament", key: u.key, filament: u.filament }],
      }),
    );
  return [...measures, ...filaments];
}
