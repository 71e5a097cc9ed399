import type { BufferGeometry, Plane } from "three";

const nothing = () => null;

/** Lines along the creases of a mesh; they are in nobody's way. */
export function Creases(p: { geometry: BufferGeometry | undefined; colour: string; planes?: Plane[] }) {
  if (!p.geometry?.index?.count) return null;
  return (
    <lineSegments geometry={p.geometry} raycast={nothing}>
      <lineBasicMaterial color={p.colour} clippingPlanes={p.planes ?? null} />
    </lineSegments>
  );
}
