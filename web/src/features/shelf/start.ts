import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useState } from "react";
import { useLocation } from "wouter";
import { complain } from "../../api/complain";
import { designKey } from "../../api/design-query";
import type { DesignView } from "../../api/generated/DesignView";
import { SHELF } from "../../api/shelf-query";

/** Starts designs from pictures, however they arrive. */
export function useStart() {
  const cache = useQueryClient();
  const [, go] = useLocation();
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
        complain(e);
      } finally {
        setBusy(false);
      }
    },
    [cache, go],
  );
  return { start, isBusy };
}
