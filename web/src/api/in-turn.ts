import { useCallback, useRef, useState } from "react";
import { countWaiting } from "../state/away";

/** Sends changes one after the other, so that each meets what the last one left. */
export function useInTurn() {
  const last = useRef<Promise<unknown>>(Promise.resolve());
  const count = useRef(0);
  const [waiting, setWaiting] = useState(0);
  const inTurn = useCallback(<T>(run: () => Promise<T>): Promise<T> => {
    const add = (by: number) => {
      count.current += by;
      setWaiting(count.current);
      countWaiting(by);
    };
    const isAlone = count.current === 0;
    add(1);
    // One that waits for none is sent at once: the server computes while the page is drawn anew.
    const done = (isAlone ? run() : last.current.then(run)).finally(() => add(-1));
    // A refused one holds up none of the others.
    last.current = done.catch(() => undefined);
    return done;
  }, []);
  return { inTurn, isSaving: waiting > 0 };
}
