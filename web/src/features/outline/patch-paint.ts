import { useMemo } from "react";
import type { PatchView } from "../../api/generated/PatchView";
import type { ResultView } from "../../api/generated/ResultView";
import { useFilaments } from "../../api/workshop";
import { useInFilaments } from "../views/filament-switch";
import { rgb } from "../views/look";

/** The colour of the filament that a patch prints in: its own, else that of the tiers that it shapes; null where plans are not shown in filaments. */
export function usePatchPaint(result: ResultView): ((patch: PatchView) => string | null) | null {
  const filaments = useFilaments();
  const is = useInFilaments(result);
  const { tiers } = result;
  return useMemo(() => {
    if (!is) return null;
    const added = tiers.filter((t) => !t.is_cut);
    const body = added[0]?.colour;
    const details = added.find((t) => t.role === "detail" || t.role === "stamp")?.colour ?? body;
    return (patch) => {
      if (patch.use === "aside" || patch.use === "opening") return null;
      const own = filaments.find((f) => f.id === patch.filament)?.colour;
      const colour = own ?? (patch.use === "edge" ? body : details);
      return colour ? rgb(colour) : null;
    };
  }, [filaments, is, tiers]);
}
