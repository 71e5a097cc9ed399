import { useQuery } from "@tanstack/react-query";
import { api, type CupAsked } from "../../api/client";
import type { InUseView } from "../../api/generated/InUseView";
import type { Unit } from "../../api/generated/Unit";

/** An object in use, and the cup that was asked for: its mesh is asked for by the same words, so that it is computed once. */
export type InUse = InUseView & { asked: CupAsked };

/** The object in use, while it is asked for; null until it is there, and where there is nothing to see. */
export function useInUse(
  key: string | undefined,
  unit: Unit,
  isAsked: boolean,
  cup: CupAsked = {},
): InUse | null {
  const { data } = useQuery({
    queryKey: ["in-use", key, unit, cup],
    queryFn: async () => {
      const view = await api.inUse(key ?? "", unit, cup);
      return view && { ...view, asked: cup };
    },
    enabled: isAsked && key !== undefined,
    placeholderData: (old) => old,
    gcTime: 0,
    retry: 1,
  });
  return isAsked && key ? (data ?? null) : null;
}
