import { useQueries } from "@tanstack/react-query";
import { api } from "./client";
import type { SetMember } from "./generated/SetMember";

export const MEMBERS = ["member"];

/** A design of a set, its solid made with it. */
export const memberQuery = (id: string, limit: string) => ({
  queryKey: [...MEMBERS, id, limit],
  queryFn: (): Promise<SetMember> => api.member(id, limit),
  retry: false,
});

/** Designs of a set, with their measures, sizes and times; what was last known stays until the next has come. */
export function useMembers(ids: readonly string[], limit: string, isEnabled = true) {
  return useQueries({
    queries: ids.map((id, k) => ({
      ...memberQuery(id, limit),
      queryKey: [...MEMBERS, id || `none yet ${k}`, limit],
      enabled: isEnabled && id !== "",
      placeholderData: (old: SetMember | undefined) => old,
      refetchOnMount: "always" as const,
    })),
  });
}
