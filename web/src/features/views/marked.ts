import type { MmPoint } from "../../api/generated/MmPoint";
import type { PlaceView } from "../../api/generated/PlaceView";
import { cubicsOf } from "../outline/lines";
import { FROM } from "./solid-frame";

type Vec = [number, number, number];

/** Lines that are drawn at most: hundreds of thin places are seen as well by fewer. */
const MOST_LINES = 120;
/** Of a long line every so many points are drawn that it has no more than this. */
const MOST_POINTS = 400;

/** Closed lines of a path in plan (mm, y down). */
function rings(path: string): MmPoint[][] {
  return path
    .split(/(?=M)/)
    .map((one) => cubicsOf<MmPoint>(one).map(([from]) => from))
    .filter((ring) => ring.length > 1);
}

/** The outlines of places in space, at their lower and upper ends; `high` is the object's height, mm. */
export function outlinesOf(places: readonly PlaceView[], high: number): Vec[][] {
  const all = places.flatMap((place) => {
    const [low, top] = place.heights ?? [0, high];
    const at = (ring: MmPoint[], z: number): Vec[] => {
      const step = Math.ceil(ring.length / MOST_POINTS);
      const some = ring.filter((_, i) => i % step === 0).map(([x, y]): Vec => [x, -y, z]);
      return [...some, some[0] as Vec];
    };
    return rings(place.path).flatMap((ring) => [at(ring, top), ...(top - low > 0.5 ? [at(ring, low)] : [])]);
  });
  return all.slice(0, MOST_LINES);
}

/** From where to look at a place: from its side of the object, and from below where it lies low. A direction of length 1. */
export function eyeFor(place: PlaceView, [, , high]: Vec): Vec | null {
  const points = rings(place.path).flat();
  if (points.length === 0) return null;
  const middle = (k: 0 | 1) => {
    const all = points.map((p) => p[k]);
    return (Math.min(...all) + Math.max(...all)) / 2;
  };
  const [x, y] = [middle(0), -middle(1)];
  const aside = Math.hypot(x, y);
  // What lies in the middle is seen from the front, as the object stands at first.
  const [dx, dy] = aside < 1 ? FROM.stand : [x / aside, y / aside];
  const [low, top] = place.heights ?? [0, high];
  const isUnder = high > 0 && low > 0 && (low + top) / 2 < high * 0.3;
  const dz = isUnder ? -0.35 : 0.7;
  const long = Math.hypot(dx, dy, dz);
  return [dx / long, dy / long, dz / long];
}
