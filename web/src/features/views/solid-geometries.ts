import { useEffect, useMemo } from "react";
import { BufferAttribute, BufferGeometry } from "three";
import type { TierMesh } from "../../api/mesh";
import { creases } from "./mesh";

/** Faces that meet at more than this show a line, degrees. */
const CREASE = 24;

/** Its faces. They have no normals: their materials light each of them flat, which spares three corners for each. */
export function facesOf(t: TierMesh): BufferGeometry {
  const g = new BufferGeometry();
  g.setAttribute("position", new BufferAttribute(t.positions, 3));
  g.setIndex(new BufferAttribute(t.corners, 1));
  return g;
}

/** The lines along its creases. */
export function linesOf(t: TierMesh): BufferGeometry {
  const g = new BufferGeometry();
  g.setAttribute("position", new BufferAttribute(creases(t, CREASE), 3));
  return g;
}

/** Geometries of meshes, until others come; `make` is the same function every time. */
export function useGeometries(
  tiers: readonly TierMesh[],
  make: (t: TierMesh) => BufferGeometry,
): BufferGeometry[] {
  const geometries = useMemo(() => tiers.map(make), [tiers, make]);
  // A frame is drawn when a mesh gets its geometry; to ask for one here would draw it twice.
  useEffect(
    () => () => {
      for (const g of geometries) g.dispose();
    },
    [geometries],
  );
  return geometries;
}
