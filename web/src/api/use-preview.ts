import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useRef, useState } from "react";
import { api, type Until } from "./client";
import { designKey } from "./design-query";
import type { DesignView } from "./generated/DesignView";
import type { Edit } from "./generated/Edit";
import type { ResultView } from "./generated/ResultView";
import { fetchMeshAhead } from "./mesh-query";

/** Edits of which contours or outline are the first thing to be seen. */
const OF_PICTURE: ReadonlySet<Edit["kind"]> = new Set([
  "set-threshold",
  "set-min-area",
  "set-min-gap",
  "set-bend",
  "set-deviation",
  "set-uses",
  "add-change",
  "set-change",
  "set-change-length",
  "switch-change",
  "order-change",
  "remove-change",
  "draw-freehand",
  "close-lines",
  "close-gaps",
]);
export const isOfPicture = (edits: readonly Edit[]) => edits.some((e) => OF_PICTURE.has(e.kind));

/** A hand that has not moved for so long rests. */
const REST_MS = 120;

/** While a hand moves, a new solid is asked for and shown so often at the most: drawings follow the hand, solids take several times as long. */
export const SOLID_EVERY_MS = 90;

/** A solid that comes within the first is waited for by the drawings; one that takes longer than the second comes beside them. */
const [QUICK_MS, SLOW_MS] = [40, 70];

/** A drawing is asked for so often at the most: what the page does meanwhile makes it twice as long. At 40 ms there were 17 drawings a second
 * instead of 21, and no more solids. */
const DRAWING_EVERY_MS = 24;

/** The solid of a result; where its bodies were not counted, there are as many as before. */
function counted({ solid }: ResultView, last: ResultView | undefined) {
  return solid && { ...solid, bodies: solid.bodies ?? last?.solid?.bodies ?? null };
}

/** Shows what edits of a design would give, while a hand moves: the latest wish wins, those in between are never sent. */
export function usePreview(id: string) {
  const cache = useQueryClient();
  const [previewed, setPreviewed] = useState<ResultView | null>(null);
  // `told` counts what was saved or forgotten: a preview asked for before that says nothing any more. `shown` and `solid` are the
  // latest wishes of which drawings and solid are on the screen.
  const wanted = useRef({
    edits: null as Edit[] | null,
    isRunning: false,
    told: 0,
    asked: "",
    count: 0,
    shown: 0,
    solid: 0,
    isBuilding: false,
    builtAt: 0,
    solidMs: 0,
    isQuick: true,
  });
  // The solid of a picture that is still being changed, and what Check says of a height: begun when the hand rests, given up when it
  // moves on.
  const rest = useRef({ moves: 0, timer: 0, stop: new AbortController() });

  const forget = useCallback(() => {
    const want = wanted.current;
    [want.told, want.asked, want.shown, want.solid] = [want.told + 1, "", 0, 0];
    setPreviewed(null);
  }, []);

  const moveOn = useCallback(() => {
    rest.current.moves += 1;
    clearTimeout(rest.current.timer);
    rest.current.stop.abort();
  }, []);

  const show = useCallback(
    async (edits: Edit[], until: Until, signal?: AbortSignal) => {
      const want = wanted.current;
      const { told } = want;
      want.count += 1;
      const wish = want.count;
      want.asked = JSON.stringify(edits);
      const result = await api.preview(id, edits, until, signal).catch(() => null);
      // Shown while its change is still being saved, not after that.
      if (!result || want.told !== told || signal?.aborted) return;
      const saved = cache.getQueryData<DesignView>(designKey(id))?.result;
      const isLate = wish < want.shown;
      if (!isLate) want.shown = wish;
      // A solid of an earlier wish never takes the place of a later one's.
      if (until !== "tiers") {
        if (wish < want.solid) return;
        want.solid = wish;
        fetchMeshAhead(cache, result.solid?.key);
      }
      setPreviewed((now) => {
        // A solid that took its time: the drawings have moved on.
        if (isLate && now) return { ...now, solid: counted(result, now) };
        if (until !== "shown" && until !== "tiers") return result;
        // Nothing was checked or counted: what was found last stands meanwhile, as does the last solid.
        const last = now ?? saved;
        const solid = until === "tiers" && !result.problem ? (last?.solid ?? null) : counted(result, last);
        const { findings, looked } = saved ?? result;
        return { ...result, solid, findings, looked };
      });
    },
    [cache, id],
  );

  const preview = useCallback(
    (edits: Edit[]) => {
      const want = wanted.current;
      moveOn();
      want.edits = edits;
      if (want.isRunning) return;
      const build = (now: Edit[]) => {
        if (want.isBuilding || performance.now() - want.builtAt < SOLID_EVERY_MS) return;
        want.isBuilding = true;
        want.builtAt = performance.now();
        void show(now, "shown").finally(() => {
          want.isBuilding = false;
          want.solidMs = performance.now() - want.builtAt;
        });
      };
      const next = async () => {
        want.isRunning = true;
        while (want.edits) {
          const now = want.edits;
          want.edits = null;
          const { moves } = rest.current;
          const start = performance.now();
          if (want.solidMs > SLOW_MS) want.isQuick = false;
          else if (want.solidMs < QUICK_MS) want.isQuick = true;
          // Without edits only the section has moved.
          const hasSolid = now.length > 0 && !isOfPicture(now);
          const first = isOfPicture(now) ? "outline" : hasSolid && want.isQuick ? "shown" : "tiers";
          if (hasSolid && first === "tiers") build(now);
          await show(now, first);
          const took = performance.now() - start;
          if (first === "shown") want.solidMs = took;
          const pause = DRAWING_EVERY_MS - took;
          if (pause > 0) await new Promise((done) => setTimeout(done, pause));
          if (moves !== rest.current.moves) continue;
          const stop = new AbortController();
          const timer = window.setTimeout(() => void show(now, "all", stop.signal), REST_MS);
          rest.current = { moves, timer, stop };
        }
        want.isRunning = false;
      };
      void next();
    },
    [moveOn, show],
  );

  /** Gives up what was wished and not sent yet. */
  const giveUp = useCallback(() => {
    moveOn();
    wanted.current.edits = null;
  }, [moveOn]);

  /** Whether these are the edits that were asked for last. */
  const isAsked = useCallback((edits: Edit[]) => wanted.current.asked === JSON.stringify(edits), []);

  return { previewed, preview, show, forget, giveUp, isAsked };
}
