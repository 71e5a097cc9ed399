import { useEffect, useRef, useState } from "react";

/** A value that changes at most every so many milliseconds; the last one always comes. With 0 it is the value itself. */
export function useCalmed<T>(value: T, ms: number): T {
  const [shown, setShown] = useState(value);
  // While nothing is held back, it keeps up: else a hand would begin with what the last one left.
  if (ms === 0 && shown !== value) setShown(value);
  const last = useRef(Number.NEGATIVE_INFINITY);
  useEffect(() => {
    if (ms === 0) return;
    const wait = last.current + ms - performance.now();
    const take = () => {
      last.current = performance.now();
      setShown(value);
    };
    if (wait <= 0) {
      take();
      return;
    }
    const timer = setTimeout(take, wait);
    return () => clearTimeout(timer);
  }, [value, ms]);
  return ms === 0 ? value : shown;
}
