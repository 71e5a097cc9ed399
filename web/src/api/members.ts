import { useQueries } from "@tanstack/react-query";
import { api } from "./client";
import type { SetMember } from "./generated/SetMember";

/** Designs of a set, with their measures, sizes and times; what was last known stays until the next has come. */
export function useMembers(ids: readonly string[], limit: string, isEnabled = true) {
  return useQueries({
    queries: ids.map((id, k) => ({
      queryKey: [...MEMBERS, id || `none yet ${k}`, limit],
      queryFn: (): Promise<SetMember> => api.member(id, limit),
      enabled: isEnabled && id !== "",
      placeholderData: (old: SetMember | undefined) => old,
      refetchOnMount: "always" as const,
      retry: false,
    })),
  });
}

export const MEMBERS = ["member"];
