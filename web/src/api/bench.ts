import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useMemo, useState } from "react";
import { useInterface } from "../state/interface";
import { useNotices } from "../state/notices";
import { ApiProblem, api } from "./client";
import { designKey, designQuery } from "./design-query";
import type { DesignView } from "./generated/DesignView";
import type { Edit } from "./generated/Edit";
import type { ResultView } from "./generated/ResultView";
import { useInTurn } from "./in-turn";
import { fetchMeshAhead } from "./mesh-query";
import { rebased } from "./rebase";
import { useOthers } from "./use-others";
import { isOfPicture, usePreview } from "./use-preview";
import { whenThere } from "./waiting";

/** Everything that a station needs of the design on the bench. */
export interface Bench {
  design: DesignView;
  /** The preview while a control moves, else what is saved; the last good one while there is a problem. */
  result: ResultView;
  /** Whether `result` shows an older state than the controls do. */
  isOld: boolean;
  /** Saves edits as one step of undo, and gives the version that this made; throws the server's problem. */
  commit: (edits: Edit[]) => Promise<number | undefined>;
  /** The same where a refusal has no place of its own to be shown; of a refusal the promise holds nothing. */
  change: (edits: Edit[]) => Promise<number | undefined>;
  /** Shows what the edits would give; nothing is saved. */
  preview: (edits: Edit[]) => void;
  /** Puts another picture under the design. */
  replace: (file: File, credit: "keep" | "clear") => void;
  /** Adds the patches of an SVG to the outline. */
  addPatches: (file: File) => void;
  /** Forgets the preview. */
  settle: () => void;
  /** Whether changes are still being saved: undo then takes back the last of them. */
  isSaving: boolean;
  undo: () => void;
  /** So many steps forth, or back where it is less than 0. */
  step: (by: number) => void;
  redo: () => void;
  /** The design as a snapshot has it. */
  goBack: (snapshot: string) => void;
  /** Asks again, after the workshop has changed. */
  refresh: () => void;
  /** Moves the section; `isDone` when the line is let go. */
  cut: (y: number, isDone: boolean) => void;
}

/** Whether an edit only says what something is: made twice it does what it does once. */
const isSetting = (e: Edit) => /^(set|reset|rename)/.test(e.kind);

/** So long a change waits for its outline to be seen before it is saved. */
const FIRST_MS = 300;

const others = new BroadcastChannel("kachel");

/** Tells the other tabs of this browser that a design has changed. */
function tellOthers(id: string) {
  others.postMessage(id);
}

/** The design with this name, and how to change it. Changes are sent one after the other, each on the last one's version. */
export function useBench(id: string): {
  bench: Bench | null;
  problem: ApiProblem | null;
  reload: () => void;
} {
  const cache = useQueryClient();
  const say = useNotices((s) => s.say);
  const { data, error, refetch } = useQuery(designQuery(id));
  const { previewed, preview, show, forget, giveUp, isAsked } = usePreview(id);
  const { inTurn, isSaving } = useInTurn();
  useOthers({
    path: `/api/designs/${id}`,
    version: data?.version,
    isSaving,
    refresh: () => void refetch(),
  });

  useEffect(() => {
    const listen = (e: MessageEvent) => {
      if (e.data === id) void cache.invalidateQueries({ queryKey: designKey(id) });
    };
    others.addEventListener("message", listen);
    return () => others.removeEventListener("message", listen);
  }, [cache, id]);

  const send = useCallback(
    (ask: (d: DesignView) => Promise<DesignView>, canRepeat = false): Promise<number | undefined> =>
      inTurn(async () => {
        const before = cache.getQueryData<DesignView>(designKey(id));
        try {
          if (!before) return undefined;
          const after = await whenThere(before, ask, () => api.design(id), canRepeat);
          fetchMeshAhead(cache, after.result.solid?.key);
          cache.setQueryData(designKey(id), after);
          tellOthers(id);
          return after.version;
        } catch (e) {
          const code = e instanceof ApiProblem ? e.problem.code : "";
          // Stopped: it may or may not have been saved. Stale: somebody else was faster. Both: look again.
          if (code === "stale" || code === "stopped")
            await cache.invalidateQueries({ queryKey: designKey(id) });
          if (code === "stale") {
            say({
              text: "This design was changed in another tab",
              hint: "The newer state is shown now; make your change again.",
              isBad: true,
              action: null,
            });
          }
          throw e;
        } finally {
          forget();
        }
      }),
    [cache, forget, id, inTurn, say],
  );

  // Another design starts with its section where the core lays it.
  useEffect(
    () => () => useInterface.setState({ section: 0, isSectionPut: false, turned: 0, stretch: 1 }),
    [],
  );

  const complain = useCallback(
    (e: unknown) => {
      if (e instanceof ApiProblem && e.problem.code !== "stale") {
        say({ text: e.problem.detail, hint: e.problem.hint, isBad: true, action: null });
      }
    },
    [say],
  );

  const actions = useMemo(() => {
    const commit = (given: Edit[]) => {
      giveUp();
      // Changed while others are still being saved: what this one left alone is theirs.
      const base = cache.getQueryData<DesignView>(designKey(id));
      return send(async (d) => {
        const edits = given.map((e) => rebased(e, base, d));
        // The outline is seen first, tiers and solid when it is saved; what is previewed already is not asked for again.
        if (isOfPicture(edits) && !isAsked(edits))
          await Promise.race([show(edits, "outline"), new Promise((done) => setTimeout(done, FIRST_MS))]);
        return api.edit(id, d.version, edits);
      }, given.every(isSetting));
    };
    const step = (by: number) => {
      const one = by < 0 ? api.undo : api.redo;
      for (let n = 0; n < Math.abs(by); n++) void send((d) => one(id, d.version)).catch(complain);
    };
    return {
      commit,
      change: (edits: Edit[]) =>
        commit(edits).catch((e) => {
          complain(e);
          return undefined;
        }),
      preview,
      replace: (file: File, credit: "keep" | "clear") =>
        void send((d) => api.replace(id, d.version, file, credit)).catch(complain),
      addPatches: (file: File) => void send((d) => api.addPatches(id, d.version, file)).catch(complain),
      settle: () => {
        giveUp();
        forget();
      },
      step,
      undo: () => step(-1),
      redo: () => step(1),
      goBack: (snapshot: string) => void send((d) => api.goBack(id, d.version, snapshot)).catch(complain),
      refresh: () => void refetch().then(forget),
      cut: (y: number, isDone: boolean) => {
        useInterface.setState({ section: y, isSectionPut: true });
        if (isDone) void refetch().then(forget);
        else preview([]);
      },
    };
  }, [cache, complain, forget, giveUp, id, isAsked, preview, refetch, send, show]);

  // The last result with a solid stays on the screen, marked as old, while there is none.
  const current = previewed ?? data?.result ?? null;
  const [lastGood, setLastGood] = useState<ResultView | null>(null);
  if (current?.solid && current !== lastGood) setLastGood(current);
  const result = useMemo(() => (current ? withOldTiers(current, lastGood) : null), [current, lastGood]);

  // Until somebody puts it elsewhere, the section runs where the core lays it.
  const at = result?.solid ? result.section_at : null;
  useEffect(() => {
    if (at !== null && !useInterface.getState().isSectionPut) useInterface.setState({ section: at });
  }, [at]);

  const bench = useMemo(
    () =>
      data && result
        ? {
            design: data,
            result,
            isOld: !current?.solid && lastGood !== null,
            isSaving,
            ...actions,
          }
        : null,
    [actions, current, data, isSaving, lastGood, result],
  );
  return { bench, problem: error instanceof ApiProblem ? error : null, reload: () => void refetch() };
}

function withOldTiers(now: ResultView, old: ResultView | null): ResultView {
  if (now.solid || !old) return now;
  const { section, solid, edge_path, is_mirrored, bars } = old;
  const outline = now.outline ?? old.outline;
  // An empty stack is to be filled: what stood there before would only be in the way.
  const tiers = now.problem?.code === "no-tiers" ? now.tiers : old.tiers;
  return { ...now, tiers, section, solid, edge_path, is_mirrored, bars, outline };
}
