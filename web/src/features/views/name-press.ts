import type { ResultView } from "../../api/generated/ResultView";
import type { TierView } from "../../api/generated/TierView";
import type { Unit } from "../../api/generated/Unit";
import { useNotices } from "../../state/notices";
import { shown } from "../../ui/length";
import { useLongPress } from "../../ui/use-long-press";

/** What a tier is called, and between which heights it lies. */
export function nameOf(t: TierView, unit: Unit): string {
  return `${t.name}${t.is_cut ? ", cut out" : ""}: ${shown(t.bottom, unit, 1)} to ${shown(t.top, unit, 1)} ${unit}`;
}

/** A finger that rests on a tier is told what it is. `find` gives the tier's key or role, by what was pressed. */
export function useNamePress(
  result: ResultView,
  unit: Unit,
  find: (e: { target: EventTarget; clientX: number; clientY: number }) => string | null,
) {
  const say = useNotices((s) => s.say);
  return useLongPress((e) => {
    const asked = find(e);
    const tier = asked === null ? undefined : result.tiers.find((t) => t.key === asked || t.role === asked);
    if (tier) say({ text: nameOf(tier, unit), hint: "", isBad: false, action: null });
  });
}

/** The key of the tier that an element of plan or section draws. */
export function keyOf({ target }: { target: EventTarget }): string | null {
  const drawn = target instanceof Element ? target.closest("[data-tier],[data-cut]") : null;
  return drawn?.getAttribute("data-tier") ?? drawn?.getAttribute("data-cut") ?? null;
}
