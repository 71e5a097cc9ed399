import { useCallback, useRef, useState } from "react";

/** Sends changes one after the other, so that each meets what the last one left. */
export function useInTurn() {
  const last = useRef<Promise<unknown>>(Promise.resolve());
  const [waiting, setWaiting] = useState(0);
  const inTurn = useCallback(<T>(run: () => Promise<T>): Promise<T> => {
    setWaiting((n) => n + 1);
    const done = last.current.then(run).finally(() => setWaiting((n) => n - 1));
    // A refused one holds up none of the others.
    last.current = done.catch(() => undefined);
    return done;
  }, []);
  return { inTurn, isSaving: waiting > 0 };
}
