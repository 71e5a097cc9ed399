import { useCallback, useRef, useState } from "react";
import { countWaiting } from "../state/away";

/** Sends changes one after the other, so that each meets what the last one left. */
export function useInTurn() {
  const last = useRef<Promise<unknown>>(Promise.resolve());
  const [waiting, setWaiting] = useState(0);
  const inTurn = useCallback(<T>(run: () => Promise<T>): Promise<T> => {
    const count = (by: number) => {
      setWaiting((n) => n + by);
      countWaiting(by);
    };
    count(1);
    const done = last.current.then(run).finally(() => count(-1));
    // A refused one holds up none of the others.
    last.current = done.catch(() => undefined);
    return done;
  }, []);
  return { inTurn, isSaving: waiting > 0 };
}
