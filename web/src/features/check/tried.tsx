import { useQuery } from "@tanstack/react-query";
import type { Bench } from "../../api/bench";
import { api } from "../../api/client";
import type { MendsView } from "../../api/generated/MendsView";
import type { SafeMends } from "../../api/generated/SafeMends";
import { MendButton } from "./mend-button";

/** What became of the mends of the saved design when they were tried; null until that is known. */
export function useTriedMends(bench: Bench): MendsView | null {
  const { design } = bench;
  const { data } = useQuery({
    // Findings change with the workshop's printer too, and mends are told by their places in the list.
    queryKey: ["mends", design.id, design.version, design.result.findings.map((f) => f.what)],
    queryFn: () => api.mends(design.id),
    enabled: design.result.findings.some((f) => f.mends.length > 0),
    retry: false,
  });
  return data ?? null;
}

/** Mends all that can be mended without harm, in one step. Pointing at it shows in plan what it would give. */
export function AtOnce({ bench, safe }: { bench: Bench; safe: SafeMends }) {
  if (safe.words.length < 2) return null;
  return (
    <div className="border-t border-line py-2.5">
      <MendButton bench={bench} words={`Mend ${safe.words.length} at once`} edits={safe.edits} />
      <p className="pt-1 text-xs text-soft">{safe.words.join("; ")}. Nothing else gets worse.</p>
    </div>
  );
}
