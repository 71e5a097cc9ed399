import type { ResultView } from "../../api/generated/ResultView";
import type { Px } from "../artwork/frame";
import type { Caught } from "./catches";

/** How the picture lies on the canvas. */
export interface CanvasView {
  /** From pixels of the picture to those of the canvas. */
  toScreen: (at: Px) => Px;
  /** Screen pixels to one of the picture, to the right; less than 0 where the plan is mirrored. */
  x: number;
  /** The same downwards. */
  y: number;
  width: number;
  height: number;
  /** What a place of the picture catches; nothing of what the entry `without` has made. */
  catching: (at: Px, without?: number) => Caught;
  /** Where the pointer (or the crosshair of the keyboard) is, and what it caught. */
  pointer: Caught | null;
}

export interface Pointing {
  /** With whatever was caught. */
  at: Px;
  /** As the hand has it. */
  bare: Px;
  /** Screen pixels to one of the picture. */
  scale: number;
  isShift: boolean;
  isAlt: boolean;
  /** The patch under the pointer. */
  patch: number | null;
  isDouble: boolean;
}

/** What a tool does with the canvas. `isCatching`: it draws, so places are caught. */
export interface CanvasEvents {
  isCatching?: boolean;
  onDown?: (p: Pointing) => void;
  onMove?: (p: Pointing) => void;
  onUp?: (p: Pointing) => void;
  /** What was begun with onDown is given up. */
  onCancel?: () => void;
  /** True where the key was the tool's. */
  onKey?: (e: React.KeyboardEvent) => boolean;
}

/** Screen pixels to one of the picture, and the place in the middle. */
export interface Zoom {
  scale: number;
  at: Px;
}

/** Width and height, in pixels of the picture, of what a view that fits shows: the drawing, and the plate that it lies on. */
export function fittedBox({ outline: o, edge_size, drawing_at }: ResultView): [number, number] | null {
  if (!o) return null;
  const [w, h] = (drawing_at && edge_size) || [0, 0];
  return [Math.max(o.width, w) / o.mm_per_px, Math.max(o.height, h) / o.mm_per_px];
}

/** Screen pixels that a hand may shake in a click. */
export const SHAKE = 4;
