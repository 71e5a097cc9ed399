import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback } from "react";
import { ApiProblem, json, jsonOf, lean, post, request } from "./client";
import { complain } from "./complain";
import type { BedEdit } from "./generated/BedEdit";
import type { BedItem } from "./generated/BedItem";
import type { BedLayerView } from "./generated/BedLayerView";
import type { BedOnShelf } from "./generated/BedOnShelf";
import type { PrintView } from "./generated/PrintView";
import { useInTurn } from "./in-turn";
import { useOthers } from "./use-others";
import { whenThere } from "./waiting";

/** What the server can be asked of beds. */
export const bedApi = {
  list: () => json<BedItem[]>("/api/beds"),
  create: (designs: string[]) => lean<BedOnShelf>("/api/beds", post({ designs })),
  show: (id: string) => lean<BedOnShelf>(`/api/beds/${id}`),
  edit: (id: string, version: number, edits: BedEdit[]) =>
    lean<BedOnShelf>(`/api/beds/${id}/edits`, post({ edits }, version)),
  arrange: (id: string, version: number) => lean<BedOnShelf>(`/api/beds/${id}/arrange`, post({}, version)),
  step: (id: string, version: number, way: "undo" | "redo") =>
    lean<BedOnShelf>(`/api/beds/${id}/${way}`, post(undefined, version)),
  duplicate: (id: string) => json<BedItem>(`/api/beds/${id}/duplicate`, post()),
  remove: (id: string) => request(`/api/beds/${id}`, { method: "DELETE" }),
  restore: (id: string) => json<BedItem>(`/api/beds/${id}/restore`, post()),
  /** Goes back to the last state that can be read. */
  rescue: (id: string, version: number) => json<BedItem>(`/api/beds/${id}/rescue`, post(undefined, version)),
  print: (id: string, plate: number) => json<PrintView>(`/api/beds/${id}/plates/${plate}/print`),
  /** The lines of a layer of a plate's print, by its key; 1 is the lowest. */
  layer: (id: string, plate: number, layer: number, of: string, signal: AbortSignal | null = null) =>
    jsonOf<BedLayerView>(`/api/beds/${id}/plates/${plate}/print/${layer}?of=${of}`, { signal }),
};

export const bedFileUrl = (
  id: string,
  plate: number,
  format: "3mf" | "stl" | "singles" | "sheet" | "pdf" | "png",
) => `/api/beds/${id}/export/${format}?plate=${plate}`;

export const BEDS = ["beds"];
export const bedKey = (id: string) => ["bed", id];

/** A bed with the ways to change it. */
export interface BedWork {
  bed: BedOnShelf;
  /** Saves changes, one after the other; rejects with the problem. */
  commit: (edits: BedEdit[]) => Promise<BedOnShelf>;
  arrange: () => void;
  undo: () => void;
  redo: () => void;
  refresh: () => void;
  isSaving: boolean;
}

/** A bed, kept up to date. Changes wait for each other, so that quick ones never meet an old version. */
export function useBed(id: string): { work: BedWork | null; problem: ApiProblem | null; reload: () => void } {
  const cache = useQueryClient();
  const key = bedKey(id);
  const { data, error, refetch } = useQuery({
    queryKey: key,
    queryFn: () => bedApi.show(id),
    // A design on it may have changed meanwhile.
    refetchOnMount: "always",
    retry: false,
  });
  const { inTurn, isSaving } = useInTurn();
  useOthers({
    path: `/api/beds/${id}`,
    version: data?.version,
    isSaving,
    refresh: () => void refetch(),
  });
  const send = useCallback(
    (change: (version: number) => Promise<BedOnShelf>) =>
      inTurn(async () => {
        const version = cache.getQueryData<BedOnShelf>(bedKey(id))?.version ?? 0;
        try {
          const after = await whenThere(
            { version },
            (b) => change(b.version),
            () => bedApi.show(id),
            false,
          );
          cache.setQueryData(bedKey(id), after);
          return after;
        } catch (e) {
          // Somebody else was quicker: what they did is shown, and the change can be made again.
          if (e instanceof ApiProblem && e.problem.code === "stale")
            await cache.invalidateQueries({ queryKey: bedKey(id) });
          throw e;
        }
      }),
    [cache, id, inTurn],
  );
  const orSay = (done: Promise<unknown>) => void done.catch(complain);
  const work: BedWork | null = data
    ? {
        bed: data,
        commit: (edits) => send((version) => bedApi.edit(id, version, edits)),
        arrange: () => orSay(send((version) => bedApi.arrange(id, version))),
        undo: () => orSay(send((version) => bedApi.step(id, version, "undo"))),
        redo: () => orSay(send((version) => bedApi.step(id, version, "redo"))),
        refresh: () => void refetch(),
        isSaving,
      }
    : null;
  return { work, problem: error instanceof ApiProblem ? error : null, reload: () => void refetch() };
}

/** How long a plate takes; what was last known stays until the next has come. */
export function useBedPrint(bed: BedOnShelf, plate: number) {
  return useQuery({
    queryKey: ["bed-print", bed.id, bed.version, plate],
    queryFn: () => bedApi.print(bed.id, plate),
    enabled: plate < bed.result.plates,
    placeholderData: keepPreviousData,
    retry: false,
  });
}
