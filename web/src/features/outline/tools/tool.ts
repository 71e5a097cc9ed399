import type { ReactNode } from "react";
import type { Bench } from "../../../api/bench";
import type { PatchView } from "../../../api/generated/PatchView";
import type { Spot } from "../../../api/generated/Spot";
import type { CanvasEvents, CanvasView } from "../canvas";

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

export const spotOf = (p: PatchView): Spot => ({ at: p.at, is_ink: p.is_ink });

export const spotsOf = (patches: readonly PatchView[], chosen: readonly number[]): Spot[] =>
  chosen.flatMap((i) => patches[i] ?? []).map(spotOf);
