import { useQuery } from "@tanstack/react-query";
import { api, type CupAsked } from "../../api/client";
import type { InUseView } from "../../api/generated/InUseView";
import type { Unit } from "../../api/generated/Unit";

/** The object in use, while it is asked for; null until it is there, and where there is nothing to see. */
export function useInUse(
  key: string | undefined,
  unit: Unit,
  isAsked: boolean,
  cup: CupAsked = {},
): InUseView | null {
  const { data } = useQuery({
    queryKey: ["in-use", key, unit, cup],
    queryFn: () => api.inUse(key ?? "", unit, cup),
    enabled: isAsked && key !== undefined,
    placeholderData: (old) => old,
    gcTime: 0,
    retry: 1,
  });
  return isAsked && key ? (data ?? null) : null;
}
