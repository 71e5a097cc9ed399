import { useEffect, useRef, useState } from "react";

/** Drawing what follows takes up at most one part in so many of the time. */
const SHARE = 10;

/** A frame that is drawn without a graphics card holds up the ones after it, so that many have to be looked at. */
const FRAMES = 4;
/** They take this long where nothing is to be drawn, ms. */
const IDLE_MS = 75;

/** A value that follows another, as often as drawing what is made of it allows, and always in the end: with a graphics card at each
 * step, without one about once a second. */
export function useFollowing<T>(value: T): T {
  const [followed, setFollowed] = useState(value);
  const free = useRef(0);
  useEffect(() => {
    const follow = () => {
      const start = performance.now();
      free.current = Number.POSITIVE_INFINITY;
      setFollowed(value);
      afterFrames(FRAMES, () => {
        const now = performance.now();
        free.current = now + SHARE * Math.max(0, now - start - IDLE_MS);
      });
    };
    let timer = 0;
    const look = () => {
      const wait = free.current - performance.now();
      if (wait <= 0) follow();
      else timer = window.setTimeout(look, Math.min(wait, 50));
    };
    look();
    return () => clearTimeout(timer);
  }, [value]);
  return followed;
}

function afterFrames(count: number, then: () => void) {
  if (count === 0) then();
  else requestAnimationFrame(() => afterFrames(count - 1, then));
}
