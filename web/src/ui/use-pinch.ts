import { type PointerEvent, useRef } from "react";

interface Finger {
  x: number;
  y: number;
}

/** What two fingers did since they were last looked at: so many times farther apart, their middle from here to there, in pixels from the
 * middle of the element. */
export interface Pinch {
  times: number;
  from: Finger;
  to: Finger;
}

/** How a view is zoomed: pixels to one of what it shows, and the place in its middle. */
interface Zoomed {
  scale: number;
  at: [number, number];
}

/** The same after a pinch: what was under the fingers still is. `way` is -1 where the view is mirrored. */
export function pinched({ scale, at }: Zoomed, pinch: Pinch, least: number, most: number, way = 1): Zoomed {
  const next = Math.min(most, Math.max(least, scale * pinch.times));
  const moved = (k: 0 | 1, way: number) => {
    const axis = k === 0 ? "x" : "y";
    return at[k] + (pinch.from[axis] / scale - pinch.to[axis] / next) * way;
  };
  return { scale: next, at: [moved(0, way), moved(1, 1)] };
}

/**
 * Two fingers on an element zoom and move what it shows. With the second one the work of the first is given up (`onBegin`), and
 * neither reaches the tool in the hand before both are lifted. The handlers go on the element, in the capturing phase.
 */
export function usePinch() {
  const fingers = useRef(new Map<number, Finger>());
  const isPinching = useRef(false);
  const between = () => {
    const [a, b] = [...fingers.current.values()];
    if (!a || !b) return null;
    return { middle: { x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 }, apart: Math.hypot(a.x - b.x, a.y - b.y) };
  };
  const lift = (e: PointerEvent) => {
    if (!fingers.current.delete(e.pointerId)) return;
    if (isPinching.current) e.stopPropagation();
    if (fingers.current.size === 0) isPinching.current = false;
  };
  return (p: { onBegin: () => void; onPinch: (pinch: Pinch) => void }) => ({
    onPointerDownCapture: (e: PointerEvent) => {
      if (e.pointerType !== "touch") return;
      fingers.current.set(e.pointerId, { x: e.clientX, y: e.clientY });
      if (fingers.current.size < 2 && !isPinching.current) return;
      e.stopPropagation();
      if (!isPinching.current) p.onBegin();
      isPinching.current = true;
    },
    onPointerMoveCapture: (e: PointerEvent) => {
      if (!fingers.current.has(e.pointerId)) return;
      const before = between();
      fingers.current.set(e.pointerId, { x: e.clientX, y: e.clientY });
      if (!isPinching.current) return;
      e.stopPropagation();
      const now = between();
      if (!before || !now) return;
      const box = e.currentTarget.getBoundingClientRect();
      const off = ({ x, y }: Finger) => ({
        x: x - box.left - box.width / 2,
        y: y - box.top - box.height / 2,
      });
      const times = now.apart / Math.max(1, before.apart);
      p.onPinch({ times, from: off(before.middle), to: off(now.middle) });
    },
    onPointerUpCapture: lift,
    onPointerCancelCapture: lift,
  });
}
