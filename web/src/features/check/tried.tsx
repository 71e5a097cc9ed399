import { useQuery } from "@tanstack/react-query";
import type { Bench } from "../../api/bench";
import { api } from "../../api/client";
import type { MendsView } from "../../api/generated/MendsView";
import type { SafeMends } from "../../api/generated/SafeMends";
import { Button } from "../../ui/button";

/** What became of the mends of the saved design when they were tried; null until that is known. */
export function useTriedMends(bench: Bench): MendsView | null {
  const { design } = bench;
  const { data } = useQuery({
    queryKey: ["mends", design.id, design.version],
    queryFn: () => api.mends(design.id),
    enabled: design.result.findings.some((f) => f.mends.length > 0),
    retry: false,
  });
  return data ?? null;
}

/** Mends all that can be mended without harm, in one step. Pointing at it shows in plan what it would give. */
export function AtOnce({ bench, safe }: { bench: Bench; safe: SafeMends }) {
  if (safe.words.length < 2) return null;
  const show = () => bench.preview(safe.edits);
  return (
    <div className="border-t border-line py-2.5">
      <Button
        className="text-xs"
        onFocus={show}
        onBlur={bench.settle}
        onPointerEnter={show}
        onPointerLeave={bench.settle}
        onClick={() => bench.change(safe.edits)}
      >
        Mend {safe.words.length} at once
      </Button>
      <p className="pt-1 text-xs text-soft">{safe.words.join("; ")}. Nothing else gets worse.</p>
    </div>
  );
}
