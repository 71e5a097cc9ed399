import { type PointerEvent, useEffect, useRef } from "react";

/** So long a finger rests for a long press, milliseconds; and so far it may shake meanwhile, pixels. */
const REST_MS = 500;
const SHAKE_PX = 8;

/**
 * A finger that rests on an element asks about it, or means it as well: what a pointer says by hovering or with Shift. `onPress` gets
 * what was pressed. The handlers go on the element; they keep nothing from anybody.
 */
export function useLongPress(onPress: (e: PointerEvent) => void) {
  const held = useRef<{ id: number; x: number; y: number; timer: number } | null>(null);
  const letGo = () => {
    if (held.current) clearTimeout(held.current.timer);
    held.current = null;
  };
  useEffect(() => () => clearTimeout(held.current?.timer), []);
  return {
    onPointerDownCapture: (e: PointerEvent) => {
      const isSecond = held.current !== null;
      letGo();
      if (e.pointerType !== "touch" || isSecond) return;
      const timer = window.setTimeout(() => {
        held.current = null;
        onPress(e);
      }, REST_MS);
      held.current = { id: e.pointerId, x: e.clientX, y: e.clientY, timer };
    },
    onPointerMoveCapture: (e: PointerEvent) => {
      const h = held.current;
      if (h && h.id === e.pointerId && Math.hypot(e.clientX - h.x, e.clientY - h.y) > SHAKE_PX) letGo();
    },
    onPointerUpCapture: letGo,
    onPointerCancelCapture: letGo,
  };
}

type Handlers = Record<string, (e: PointerEvent) => void>;

/** Handlers of two kinds on one element. */
export function both(a: Handlers, b: Handlers): Handlers {
  const names = new Set([...Object.keys(a), ...Object.keys(b)]);
  return Object.fromEntries(
    [...names].map((name) => [
      name,
      (e: PointerEvent) => {
        a[name]?.(e);
        b[name]?.(e);
      },
    ]),
  );
}
