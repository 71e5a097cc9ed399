import { type PointerEvent, useRef, useState } from "react";
import type { Bench } from "../../api/bench";
import type { Edit } from "../../api/generated/Edit";

/** To a tenth of a millimetre, the step of what is placed by hand. */
export const tenths = (v: number) => Math.round(v * 10) / 10;

/** The drag of a handle: previews while it moves, one step of undo when it is let go, nothing when the drag is cancelled.
 * `live` is the value while it moves, else null. */
export function useDrag<T>(bench: Bench, edits: (to: T) => Edit[]) {
  const [live, setLive] = useState<T | null>(null);
  // What is moved is that of the moment it was taken hold of: previews change the result meanwhile.
  const held = useRef<{ x: number; y: number; from: T } | null>(null);
  /** `moved` gets the value at the start, the way of the pointer in pixels, and the event; null leaves all as it is. */
  const handle = (from: T, moved: (from: T, dx: number, dy: number, e: PointerEvent) => T | null) => ({
    onPointerDown: (e: PointerEvent) => {
      e.currentTarget.setPointerCapture(e.pointerId);
      held.current = { x: e.clientX, y: e.clientY, from };
    },
    onPointerMove: (e: PointerEvent) => {
      const h = held.current;
      const to = h && moved(h.from, e.clientX - h.x, e.clientY - h.y, e);
      if (!to) return;
      setLive(to);
      bench.preview(edits(to));
    },
    onPointerUp: () => {
      held.current = null;
      if (live) bench.change(edits(live));
      setLive(null);
    },
    onPointerCancel: () => {
      held.current = null;
      setLive(null);
      bench.settle();
    },
  });
  return { live, handle };
}
