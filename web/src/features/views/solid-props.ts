import type { RefObject } from "react";
import type { PlaceView } from "../../api/generated/PlaceView";
import type { Pose } from "../../api/generated/Pose";
import type { ResultView } from "../../api/generated/ResultView";
import type { SolidView } from "../../api/generated/SolidView";
import type { TierView } from "../../api/generated/TierView";
import type { Unit } from "../../api/generated/Unit";
import type { InUse } from "./use-in-use";

export type NamedView = "stand" | "top" | "bottom" | "front" | "right";

/** What the panel can ask of the view. */
export interface SolidHold {
  /** Saves what is seen as PNG. */
  save: (name: string, isTransparent: boolean) => void;
  /** Turns it by so many degrees, to the right and up. */
  turn: (right: number, up: number) => void;
  /** The role of the tier that is seen at a place of the window. */
  pick: (x: number, y: number) => string | null;
}

/** Places that are marked on the solid. */
export interface Marked {
  places: readonly PlaceView[];
  /** Which of them the camera turns to; null leaves it where it is. */
  look: number | null;
}

/** Views that turn together: each hears where the others' cameras stand, seen from what they look at. */
export type Twins = Set<(from: { x: number; y: number; z: number }, sender: object) => void>;

/** A height at which the solid ends, and what is laid there. */
export interface Under {
  height: number;
  groups: readonly LaidGroup[];
}

/** Lines that are laid in several places. */
export interface LaidGroup {
  lines: readonly Ribbon[];
  poses: readonly Pose[];
}

/** Lines of one colour and width: an SVG path of moves and straight lines, mm, y down. */
export interface Ribbon {
  path: string;
  width: number;
  colour: string;
}

/** What colours a tier. */
type Painted = Pick<TierView, "filament" | "colour" | "is_cut">;

/** What the solid is told. */
export interface SolidProps {
  /** By this the mesh is fetched. */
  meshKey: string;
  size: [number, number, number];
  /** The filaments of the parts; null where all is one filament. */
  colours: readonly Painted[] | null;
  isLifted: boolean;
  isClear: boolean;
  /** Cut open along the section. */
  isCut: boolean;
  isMirrored: boolean;
  isDark: boolean;
  /** Its measures are drawn round it, in this unit. */
  measures: Unit | null;
  /** The view to stand at; the count rises to ask for it again. */
  view: { name: NamedView; count: number };
  hold: RefObject<SolidHold | null>;
  marked: Marked | null;
  /** The object in use; null shows it as it is printed. */
  use: InUse | null;
  /** Only what lies under this height is seen, mm, with these lines on top; null shows all. */
  under?: Under | null;
  /** Views that turn with this one. */
  twins?: Twins | undefined;
}

/** What the view is told of a result with this solid. */
export function seenOf(
  result: ResultView,
  solid: SolidView,
): Pick<SolidProps, "meshKey" | "size" | "colours" | "isMirrored"> {
  return {
    meshKey: solid.key,
    size: [...solid.reach, solid.size[2]],
    colours: result.is_painted
      ? result.tiers.map(({ filament, colour, is_cut }) => ({ filament, colour, is_cut }))
      : null,
    isMirrored: result.is_mirrored,
  };
}
