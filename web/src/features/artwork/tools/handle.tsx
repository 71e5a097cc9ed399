import { useRef } from "react";
import { moveOf } from "../../../ui/length";
import type { BoardView } from "../board";
import type { Px } from "../frame";

/**
 * A point of the picture that can be dragged, or moved by the arrow keys: a pixel, with Shift ten, with Alt a tenth.
 * Where `catches` is set, a dragged one catches the nodes of contours, unless Alt is held.
 */
export function Handle(p: {
  view: BoardView;
  at: Px;
  label: string;
  catches?: boolean;
  onMove: (to: Px) => void;
  onDone?: () => void;
}) {
  const start = useRef<{ at: Px; x: number; y: number } | null>(null);
  const [left, top] = p.view.toScreen(p.at);
  return (
    <button
      type="button"
      data-handle
      aria-label={p.label}
      title={p.label}
      className="absolute z-[5] size-5 pointer-coarse:size-8 -translate-x-1/2 -translate-y-1/2 cursor-move touch-none rounded-[5px] border-2 border-white bg-terracotta/80 shadow outline-glaze"
      style={{ left, top }}
      onPointerDown={(e) => {
        e.currentTarget.setPointerCapture(e.pointerId);
        start.current = { at: p.at, x: e.clientX, y: e.clientY };
      }}
      onPointerMove={(e) => {
        const s = start.current;
        if (!s) return;
        const to: Px = [
          s.at[0] + (e.clientX - s.x) / p.view.scale,
          s.at[1] + (e.clientY - s.y) / p.view.scale,
        ];
        p.onMove(p.catches && !e.altKey ? p.view.caught(to) : to);
      }}
      onPointerUp={() => {
        start.current = null;
        p.onDone?.();
      }}
      onKeyDown={(e) => {
        const move = moveOf(e);
        if (!move) return;
        e.preventDefault();
        e.stopPropagation();
        p.onMove([p.at[0] + move[0], p.at[1] + move[1]]);
        p.onDone?.();
      }}
    />
  );
}
