import { useEffect, useRef, useState } from "react";

/** A value that changes at most every so many milliseconds; the last one always comes. With 0 it is the value itself. */
export function useCalmed<T>(value: T, ms: number): T {
  const [shown, setShown] = useState(value);
  const last = useRef(Number.NEGATIVE_INFINITY);
  useEffect(() => {
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
