import type { ReactNode } from "react";
import type { Bench } from "../../../api/bench";
import type { Change } from "../../../api/generated/Change";
import type { Edit } from "../../../api/generated/Edit";
import type { PatchView } from "../../../api/generated/PatchView";
import type { Spot } from "../../../api/generated/Spot";
import type { CanvasEvents, CanvasView } from "../canvas";

type Placed = Extract<Change, { do: "place" }>;

/** What a tool gives to the plan. */
export interface ToolParts {
  events: CanvasEvents;
  overlay: (view: CanvasView) => ReactNode;
  tray: ReactNode;
}

/** What every tool gets. */
export interface ToolProps {
  bench: Bench;
  /** Places of the chosen patches in the list. */
  chosen: readonly number[];
  /** The chosen patches as they are saved: a preview may show them elsewhere already. */
  on: Spot[];
  setChosen: (now: number[]) => void;
  /** Puts the tool down. */
  onDone: () => void;
}

/** A patch by all that it can be known again by. */
export const spotOf = (p: PatchView): Spot => ({
  at: p.at,
  is_ink: p.is_ink,
  like: { span: p.span, depth: p.depth },
  ...(p.root ? { root: p.root } : {}),
});

/** Patches moved, turned and scaled about their middle; nothing at all where no more is said. */
export const placed = (on: Spot[], how: Partial<Placed> = {}): Placed => ({
  do: "place",
  on,
  by: [0, 0],
  degrees: 0,
  scale: 1,
  stretch: 1,
  flip: false,
  is_copy: false,
  ...how,
});

/** A copy five millimetres beside. */
export const doubled = (on: Spot[], mmPerPx: number): Placed =>
  placed(on, { by: [5 / mmPerPx, 5 / mmPerPx], is_copy: true });

/** Pins patches as well, or lets go of them. */
export function withPins(patches: readonly PatchView[], of: readonly PatchView[], isPinned: boolean): Edit {
  const others = patches.filter((q) => q.is_pinned && !of.includes(q));
  return { kind: "set-pins", pins: [...others, ...(isPinned ? of : [])].map(spotOf) };
}

export const spotsOf = (patches: readonly PatchView[], chosen: readonly number[]): Spot[] =>
  chosen.flatMap((i) => patches[i] ?? []).map(spotOf);

/** Where a spot is found again: the patch with this point, else the one of the same root, else the smallest box of its kind round it. */
export function found(patches: readonly PatchView[], spot: Spot): number | null {
  const same = patches.findIndex((q) => q.is_ink === spot.is_ink && `${q.at}` === `${spot.at}`);
  if (same >= 0) return same;
  const root = spot.root ? JSON.stringify(spot.root) : null;
  const kin = root ? patches.findIndex((q) => q.root && JSON.stringify(q.root) === root) : -1;
  if (kin >= 0) return kin;
  let best: number | null = null;
  patches.forEach((q, i) => {
    const [l, t, r, b] = q.span;
    const [x, y] = spot.at;
    const holds = q.is_ink === spot.is_ink && l <= x && x <= r && t <= y && y <= b;
    if (holds && (best === null || (q.area ?? 0) < (patches[best]?.area ?? 0))) best = i;
  });
  return best;
}
