import type { InUseView } from "../../api/generated/InUseView";

type Vec = [number, number, number];

/** Where things stand in the view of an object in use, mm. */
export interface UseScene {
  /** The box of all that is seen, its middle over the middle of the bed. */
  size: Vec;
  /** How far the object and what stands beside it are moved to the right. */
  object: number;
  thing: number;
  /** Turned anticlockwise in plan, then stood up with its upper side to the front; radians. None lies as it is printed. */
  turn: number | null;
  /** How high the plan's middle is when it stands. */
  lift: number;
}

/** Room between an object and what stands beside it, as a share of the wider. */
const GAP = 0.12;

/** Lays out an object of this size and what is shown with it. */
export function sceneOf(use: InUseView, object: Vec): UseScene {
  const thing = use.size;
  const flat: Vec = [0, 1, 2].map((k) => Math.max(object[k] ?? 0, thing?.[k] ?? 0)) as Vec;
  if (use.upright !== null) {
    const turn = (use.upright * Math.PI) / 180;
    const [sin, cos] = [Math.abs(Math.sin(turn)), Math.abs(Math.cos(turn))];
    const [wide, high] = [flat[0] * cos + flat[1] * sin, flat[0] * sin + flat[1] * cos];
    return { size: [wide, flat[2] * 2, high], object: 0, thing: 0, turn, lift: high / 2 };
  }
  if (!use.is_beside || !thing) return { size: flat, object: 0, thing: 0, turn: null, lift: 0 };
  const gap = GAP * Math.max(object[0], thing[0]);
  const all = object[0] + gap + thing[0];
  return {
    size: [all, flat[1], flat[2]],
    object: (all - object[0]) / 2,
    thing: (thing[0] - all) / 2,
    turn: null,
    lift: 0,
  };
}
