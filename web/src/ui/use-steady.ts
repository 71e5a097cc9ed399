import { useCallback, useLayoutEffect, useRef } from "react";

/** A function that stays the same and does what the latest one does: for what is drawn anew only where it has changed. */
export function useSteady<A extends unknown[], R>(latest: (...args: A) => R): (...args: A) => R {
  const now = useRef(latest);
  useLayoutEffect(() => {
    now.current = latest;
  });
  return useCallback((...args: A) => now.current(...args), []);
}
