import { useQuery } from "@tanstack/react-query";
import type { Bench } from "../../api/bench";
import { api } from "../../api/client";
import type { PatchView } from "../../api/generated/PatchView";
import { Choice } from "../../ui/choice";
import { rgb } from "../views/look";

/** The filament of the chosen patches, where they become details; else that of their tier. */
export function PatchFilament({ bench, picked }: { bench: Bench; picked: readonly PatchView[] }) {
  const { data } = useQuery({ queryKey: ["workshop"], queryFn: api.workshop });
  const filaments = data?.workshop.filaments ?? [];
  const own = new Set(picked.map((p) => p.filament ?? ""));
  const paint = (filament: string | null) =>
    bench.change([
      { kind: "paint-patches", paints: picked.map((p) => ({ at: p.at, is_ink: p.is_ink, filament })) },
    ]);
  return (
    <Choice
      label="Filament"
      meaning="In which filament they print where they are details"
      value={own.size === 1 ? [...own][0] || "tier" : "several"}
      options={[
        { name: "tier", label: "The tier's" },
        ...(own.size > 1 ? [{ name: "several", label: "Several" }] : []),
        ...filaments.map((f) => ({ name: f.id, label: f.name, colour: rgb(f.colour) })),
      ]}
      onChoose={(f) => f !== "several" && paint(f === "tier" ? null : f)}
    />
  );
}
