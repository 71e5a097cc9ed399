import type { BedPiece } from "../../api/generated/BedPiece";
import type { Place } from "../../api/generated/Place";
import type { Pose } from "../../api/generated/Pose";

/** A piece that lies somewhere. */
export type Piece = BedPiece & { place: Place };

/** A place further to the right and up, in hundredths of a millimetre. */
export function added(pose: Pose, [right, up]: readonly [number, number]): Pose {
  const short = (v: number) => Math.round(v * 100) / 100;
  return { ...pose, x: short(pose.x + right), y: short(pose.y + up) };
}

/** A place turned further about its own origin, 0 to 360 degrees. */
export function turnedBy(pose: Pose, degrees: number): Pose {
  return { ...pose, degrees: (((pose.degrees + degrees) % 360) + 360) % 360 };
}
