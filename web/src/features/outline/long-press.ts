import { type PointerEvent, useLayoutEffect, useRef } from "react";
import { flushSync } from "react-dom";
import { useLongPress } from "../../ui/use-long-press";
import type { CanvasEvents, Pointing } from "./canvas-view";

/**
 * A finger that rests on a patch means it as well as the chosen ones, as a click with Shift does. What the finger has begun is given up
 * first; `pressed` says what it lies on, null where the tool draws.
 */
export function useChoosingToo(
  events: CanvasEvents,
  giveUp: () => void,
  pressed: (e: PointerEvent) => Pointing | null,
) {
  // Each step has to see what the one before has left.
  const latest = useRef(events);
  useLayoutEffect(() => {
    latest.current = events;
  });
  return useLongPress((e) => {
    const on = pressed(e);
    if (!on) return;
    const press = { ...on, isShift: true };
    flushSync(giveUp);
    flushSync(() => latest.current.onDown?.(press));
    latest.current.onUp?.(press);
  });
}
