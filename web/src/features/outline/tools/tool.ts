import type { ReactNode } from "react";
import type { Bench } from "../../../api/bench";
import type { Change } from "../../../api/generated/Change";
import type { Edit } from "../../../api/generated/Edit";
import type { PatchView } from "../../../api/generated/PatchView";
import type { Spot } from "../../../api/generated/Spot";
import type { Use } from "../../../api/generated/Use";
import type { Px } from "../../artwork/frame";
import type { CanvasEvents, CanvasView } from "../canvas-view";

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
  /** The same with all that lies inside them: what moves along. */
  carried: Spot[];
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

/**
 * What a line drawn by hand is for: the edge, where nothing else shapes it or where the line lies outside of all that does;
 * else a detail.
 */
export function drawnUse(patches: readonly PatchView[], line: readonly Px[]): Use {
  const edges = patches.filter((q) => q.use === "edge" || q.use === "both");
  const isInSome = edges.some(({ span: [l, t, r, b] }) =>
    line.some(([x, y]) => x > l && x < r && y > t && y < b),
  );
  return isInSome ? "detail" : "edge";
}

/** The chosen patches and all that lie inside them. */
export function withInside(patches: readonly PatchView[], chosen: readonly number[]): number[] {
  const isIn = (i: number): boolean => {
    const up = patches[i]?.parent ?? null;
    return chosen.includes(i) || (up !== null && isIn(up));
  };
  return [...chosen, ...patches.flatMap((_, i) => (!chosen.includes(i) && isIn(i) ? [i] : []))];
}

export const spotsOf = (patches: readonly PatchView[], chosen: readonly number[]): Spot[] =>
  chosen.flatMap((i) => patches[i] ?? []).map(spotOf);
