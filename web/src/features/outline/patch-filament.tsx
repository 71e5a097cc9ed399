import type { Bench } from "../../api/bench";
import type { PatchView } from "../../api/generated/PatchView";
import { useFilaments } from "../../api/workshop";
import { Choice } from "../../ui/choice";
import { spoolOption } from "../views/look";
import { spotOf } from "./tools/tool";

/** The filament of the chosen patches, where they become details; else that of their tier. */
export function PatchFilament({ bench, picked }: { bench: Bench; picked: readonly PatchView[] }) {
  const filaments = useFilaments();
  const own = new Set(picked.map((p) => p.filament ?? ""));
  const paint = (filament: string | null) =>
    bench.change([{ kind: "paint-patches", paints: picked.map((p) => ({ spot: spotOf(p), filament })) }]);
  return (
    <Choice
      label="Filament"
      meaning="In which filament they print where they are details"
      value={own.size === 1 ? [...own][0] || "tier" : "several"}
      options={[
        { name: "tier", label: "The tier's" },
        ...(own.size > 1 ? [{ name: "several", label: "Several" }] : []),
        ...filaments.map(spoolOption),
      ]}
      onChoose={(f) => f !== "several" && paint(f === "tier" ? null : f)}
    />
  );
}
