import type { PatchView } from "../../../api/generated/PatchView";
import { nodesOf, type Px } from "../../artwork/frame";
import { type Pointing, SHAKE } from "../canvas-view";
import { distance, isInside } from "../lines";

/** What a hand is doing while the button is down. */
export type Drag =
  | { kind: "press"; from: Px; patch: number | null; isAlt: boolean }
  | { kind: "frame" | "loop"; places: Px[] }
  | { kind: "move"; from: Px; by: Px; patch: number | null };

/** What the pointer did. */
export type PointerStep = { kind: "down" | "move" | "up" } & Pick<
  Pointing,
  "bare" | "patch" | "scale" | "isShift" | "isAlt"
>;

/** What is to be done about it. */
export type Effect =
  | { kind: "choose"; chosen: number[] }
  | { kind: "preview-move"; by: Px }
  | { kind: "move"; by: Px }
  | { kind: "settle" };

interface World {
  patches: readonly PatchView[];
  chosen: readonly number[];
}

/**
 * Choosing by click, frame (drag) or loop (drag with Alt), and moving what is chosen: the next state, and what is to be done.
 * Pure, so that it is tested without a browser.
 */
export function choosing(
  drag: Drag | null,
  e: PointerStep,
  world: World,
): { drag: Drag | null; effects: Effect[] } {
  if (e.kind === "down") {
    const isOnChosen = e.patch !== null && world.chosen.includes(e.patch) && !e.isShift;
    return {
      drag: isOnChosen
        ? { kind: "move", from: e.bare, by: [0, 0], patch: e.patch }
        : { kind: "press", from: e.bare, patch: e.patch, isAlt: e.isAlt },
      effects: [],
    };
  }
  if (!drag) return { drag: null, effects: [] };
  return e.kind === "move" ? moved(drag, e) : { drag: null, effects: finished(drag, e, world) };
}

function moved(drag: Drag, e: PointerStep): { drag: Drag; effects: Effect[] } {
  switch (drag.kind) {
    case "press": {
      const isClick = distance(drag.from, e.bare) * e.scale <= SHAKE;
      if (isClick) return { drag, effects: [] };
      return { drag: { kind: drag.isAlt ? "loop" : "frame", places: [drag.from, e.bare] }, effects: [] };
    }
    case "move": {
      const by: Px = [e.bare[0] - drag.from[0], e.bare[1] - drag.from[1]];
      return { drag: { ...drag, by }, effects: [{ kind: "preview-move", by }] };
    }
    case "frame":
      return { drag: { ...drag, places: [drag.places[0] ?? e.bare, e.bare] }, effects: [] };
    case "loop":
      return { drag: { ...drag, places: [...drag.places, e.bare] }, effects: [] };
  }
}

function finished(drag: Drag, e: PointerStep, { patches, chosen }: World): Effect[] {
  switch (drag.kind) {
    case "press":
      return clicked(drag.patch, e.isShift, chosen);
    case "move": {
      // A press on a chosen patch that did not move is a click.
      if (Math.hypot(...drag.by) * e.scale >= SHAKE) return [{ kind: "move", by: drag.by }];
      // The button goes up on the board, which has caught the pointer: the patch is the one it went down on.
      return [{ kind: "settle" }, ...clicked(drag.patch, e.isShift, chosen)];
    }
    case "frame":
    case "loop": {
      const loop = drag.kind === "loop" ? drag.places : cornersOf(drag.places);
      const hits = patches.flatMap((q, i) => (q.is_ink && isWithin(q, loop) ? [i] : []));
      return [{ kind: "choose", chosen: e.isShift ? [...new Set([...chosen, ...hits])] : hits }];
    }
  }
}

function clicked(patch: number | null, isShift: boolean, chosen: readonly number[]): Effect[] {
  if (patch === null) return [{ kind: "choose", chosen: [] }];
  if (!isShift) return [{ kind: "choose", chosen: [patch] }];
  const isChosen = chosen.includes(patch);
  return [{ kind: "choose", chosen: isChosen ? chosen.filter((k) => k !== patch) : [...chosen, patch] }];
}

/** The corners of the frame between two places. */
export function cornersOf(places: Px[]): Px[] {
  const a: Px = places[0] ?? [0, 0];
  const b: Px = places.at(-1) ?? a;
  return [a, [b[0], a[1]], b, [a[0], b[1]]];
}

const isWithin = (q: PatchView, loop: Px[]) => {
  const nodes = nodesOf(q.path);
  return nodes.length > 0 && nodes.every((n) => isInside(n, loop));
};
