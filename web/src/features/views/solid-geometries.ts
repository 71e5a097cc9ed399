import { useEffect, useMemo } from "react";
import { BufferAttribute, BufferGeometry } from "three";
import type { TierMesh } from "../../api/mesh";

/** Its faces. They have no normals: their materials light each of them flat, which spares three corners for each. */
export function facesOf(t: TierMesh): BufferGeometry {
  const g = new BufferGeometry();
  g.setAttribute("position", new BufferAttribute(t.positions, 3));
  g.setIndex(new BufferAttribute(t.corners, 1));
  return g;
}

/** The lines along its creases. Their positions are a buffer of their own: faces and lines do not come and go together. */
export function linesOf(t: TierMesh): BufferGeometry {
  const g = new BufferGeometry();
  g.setAttribute("position", new BufferAttribute(t.positions, 3));
  g.setIndex(new BufferAttribute(t.lines, 1));
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
