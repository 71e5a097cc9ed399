import { type PointerEvent, useRef, useState } from "react";
import type { Bench } from "../../api/bench";
import type { Edit } from "../../api/generated/Edit";

/** To a tenth of a millimetre, the step of what is placed by hand. */
export const tenths = (v: number) => Math.round(v * 10) / 10;

/**
 * A handle that is dragged, or moved by keys: previews while it moves, one step of undo when it is let go, nothing when the drag
 * is cancelled. `was` is the saved value; `now` is what a hand or keys have made of it, also while that is being saved, so that
 * nothing jumps back meanwhile and quick keys add up.
 */
export function useDrag<T>(bench: Bench, was: T, edits: (to: T, from: T) => Edit[]) {
  const [live, setLive] = useState<T | null>(null);
  // What is being saved, and the version of the design that it has become.
  const [sent, setSent] = useState<{ to: T; version: number | null } | null>(null);
  const isSaving = sent !== null && (sent.version === null || bench.design.version < sent.version);
  const saved = isSaving ? sent.to : was;
  // What is moved is that of the moment it was taken hold of: previews change the result meanwhile.
  const held = useRef<{ x: number; y: number; from: T } | null>(null);
  const save = (to: T) => {
    const change = edits(to, saved);
    if (change.length === 0) return;
    setSent({ to, version: null });
    void bench.change(change).then((version) => {
      // Refused: the bench says so, and the handle goes back.
      setSent((s) => (s?.to !== to ? s : version === undefined ? null : { to, version }));
    });
  };
  /** `moved` gets the value at the start, the way of the pointer in pixels, and the event; null leaves all as it is. */
  const handle = (moved: (from: T, dx: number, dy: number, e: PointerEvent) => T | null) => ({
    onPointerDown: (e: PointerEvent) => {
      e.currentTarget.setPointerCapture(e.pointerId);
      held.current = { x: e.clientX, y: e.clientY, from: saved };
    },
    onPointerMove: (e: PointerEvent) => {
      const h = held.current;
      const to = h && moved(h.from, e.clientX - h.x, e.clientY - h.y, e);
      if (!to) return;
      setLive(to);
      bench.preview(edits(to, was));
    },
    onPointerUp: () => {
      held.current = null;
      if (live) save(live);
      setLive(null);
    },
    onPointerCancel: () => {
      held.current = null;
      setLive(null);
      bench.settle();
    },
  });
  return { now: live ?? saved, handle, save };
}
