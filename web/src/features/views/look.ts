import type { Filament } from "../../api/generated/Filament";
import type { ResultView } from "../../api/generated/ResultView";
import type { TierView } from "../../api/generated/TierView";

/** The families of colour that roles have while everything is printed in one filament. */
const FAMILY: Record<string, "flange" | "wall" | "stamp"> = {
  flange: "flange",
  body: "flange",
  loop: "flange",
  wall: "wall",
  rim: "wall",
  grip: "wall",
  stamp: "stamp",
  detail: "stamp",
  bar: "flange",
  own: "stamp",
};

export type Family = "flange" | "wall" | "stamp" | "room";

export function familyOf(role: string): Family {
  return FAMILY[role] ?? "room";
}

export const rgb = (c: readonly number[]) => `rgb(${c.join(" ")})`;

/** A filament as one of those to choose from. */
export const spoolOption = (f: Filament) => ({ name: f.id, label: f.name, colour: rgb(f.colour) });

/** How a tier is filled in plan: by its filament where there are several, else by what it is. */
export function fillOf(tier: TierView, many: boolean): string {
  if (tier.is_cut) return "var(--tile)";
  if (many) return rgb(tier.colour);
  return `var(--${familyOf(tier.role)})`;
}

/** Whether a cut is seen from above: what is cut from below is a hidden edge. */
export function isSeen(tier: TierView, result: ResultView): boolean {
  if (!tier.is_cut) return true;
  const before = result.tiers.slice(0, result.tiers.indexOf(tier)).filter((t) => !t.is_cut);
  const top = Math.max(0, ...before.map((t) => t.top));
  return (
    tier.top >= top - 1e-6 || before.length === 0 || tier.top >= Math.min(...before.map((t) => t.top)) - 1e-6
  );
}
