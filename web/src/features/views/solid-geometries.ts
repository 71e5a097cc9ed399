import { useThree } from "@react-three/fiber";
import { useEffect, useMemo } from "react";
import { BufferAttribute, BufferGeometry } from "three";
import type { TierMesh } from "./mesh";

/** Geometries of meshes, until others come. */
export function useGeometries(tiers: TierMesh[]): BufferGeometry[] {
  const invalidate = useThree((s) => s.invalidate);
  const geometries = useMemo(
    () =>
      tiers.map((t) => {
        const g = new BufferGeometry();
        g.setAttribute("position", new BufferAttribute(t.positions, 3));
        g.setIndex(new BufferAttribute(t.corners, 1));
        // Own corners for every face, so that each is lit flat.
        const flat = g.toNonIndexed();
        flat.computeVertexNormals();
        g.dispose();
        return flat;
      }),
    [tiers],
  );
  useEffect(() => {
    invalidate();
    return () => {
      for (const g of geometries) g.dispose();
    };
  }, [geometries, invalidate]);
  return geometries;
}
