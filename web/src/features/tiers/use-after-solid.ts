import { useQueryClient } from "@tanstack/react-query";
import { startTransition, useEffect, useState } from "react";
import type { Bench } from "../../api/bench";
import { isMeshSeen } from "../../api/mesh-query";
import { useInterface } from "../../state/interface";

/** So long what stands beside the solid waits for it. */
const MOST_MS = 250;

/** Another recipe draws the whole page anew. The solid goes first: this is the bench for all else, which follows when the solid has been
 * drawn. Of the same recipe, and where no solid is looked at, it is the bench itself. */
export function useAfterSolid(bench: Bench): Bench {
  const cache = useQueryClient();
  const [shown, setShown] = useState(bench);
  const isWaiting = shown.result.recipe !== bench.result.recipe;
  if (!isWaiting && shown !== bench) setShown(bench);
  useEffect(() => {
    if (!isWaiting) return;
    const key = bench.result.solid?.key ?? null;
    const show = () => startTransition(() => setShown(bench));
    if (key === null || !isMeshSeen(cache) || useInterface.getState().drawn === key) {
      show();
      return;
    }
    const timer = setTimeout(show, MOST_MS);
    const stop = useInterface.subscribe((s) => s.drawn === key && show());
    return () => {
      clearTimeout(timer);
      stop();
    };
  }, [bench, cache, isWaiting]);
  return isWaiting ? shown : bench;
}
