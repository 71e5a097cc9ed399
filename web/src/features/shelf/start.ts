import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useState } from "react";
import { useLocation } from "wouter";
import { designKey } from "../../api/bench";
import { ApiProblem } from "../../api/client";
import type { DesignView } from "../../api/generated/DesignView";
import { useNotices } from "../../state/notices";

/** The query of the shelf's designs. */
export const SHELF = ["shelf"];

/** Starts designs from pictures, however they arrive. */
export function useStart() {
  const cache = useQueryClient();
  const [, go] = useLocation();
  const say = useNotices((s) => s.say);
  const [isBusy, setBusy] = useState(false);
  const start = useCallback(
    async (make: () => Promise<DesignView>) => {
      setBusy(true);
      try {
        const design = await make();
        cache.setQueryData(designKey(design.id), design);
        void cache.invalidateQueries({ queryKey: SHELF });
        go(`/design/${design.id}/artwork`);
      } catch (e) {
        const p = e instanceof ApiProblem ? e.problem : null;
        say({ text: p?.detail ?? String(e), hint: p?.hint ?? "", isBad: true, action: null });
      } finally {
        setBusy(false);
      }
    },
    [cache, go, say],
  );
  return { start, isBusy };
}
