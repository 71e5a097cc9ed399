import { useQuery } from "@tanstack/react-query";
import { useEffect, useEffectEvent, useRef } from "react";
import { useAway } from "../state/away";
import { ApiProblem, json } from "./client";
import type { VersionView } from "./generated/VersionView";

/** So often it is looked whether somebody else has changed what is open, ms. */
const EVERY_MS = 700;

type Path = `/api/${"designs" | "beds"}/${string}`;

/** At what a design or a bed is; cheap, as nothing is computed for it. */
export const versionOf = (path: Path) => json<VersionView>(`${path}/version`);

/** Asks anew once somebody else, in another browser, has changed a design or a bed that is open here. */
export function useOthers(p: {
  path: Path;
  /** The version that is shown; undefined while there is none. */
  version: number | undefined;
  /** What is being saved here is no change of somebody else. */
  isSaving: boolean;
  refresh: () => void;
}) {
  const isAway = useAway((s) => s.isAway);
  const { data } = useQuery({
    queryKey: ["version", p.path],
    queryFn: () => versionOf(p.path),
    enabled: p.version !== undefined && !p.isSaving && !isAway,
    // One that is gone does not come back by itself.
    refetchInterval: (q) => (q.state.error instanceof ApiProblem ? false : EVERY_MS),
    gcTime: 0,
    retry: false,
  });
  const refresh = useEffectEvent(p.refresh);
  const ofDesigns = useRef<number | undefined>(undefined);
  useEffect(() => {
    if (!data || p.version === undefined || p.isSaving) return;
    const isOther = ofDesigns.current !== undefined && ofDesigns.current !== data.of_designs;
    ofDesigns.current = data.of_designs;
    if (data.version > p.version || isOther) refresh();
  }, [data, p.version, p.isSaving]);
}
