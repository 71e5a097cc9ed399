/** One tier's mesh, as views into the answer. */
export interface TierMesh {
  /** What it is of the object: its place in the server's list of roles. */
  role: number;
  /** The part (filament) it belongs to. */
  part: number;
  /** x, y, z in millimetres. */
  positions: Float32Array;
  /** Three corners a triangle. */
  corners: Uint32Array;
  /** Two corners a line along a crease; none of very large meshes. */
  lines: Uint32Array;
}

const MAGIC = 0x48534d4b;

/** Reads the server's binary meshes without copying; throws on anything else. */
export function readMesh(bytes: ArrayBuffer): TierMesh[] {
  const head = new DataView(bytes);
  if (bytes.byteLength < 16 || head.getUint32(0, true) !== MAGIC || head.getUint32(4, true) !== 3) {
    throw new Error("not a mesh of version 3");
  }
  const count = head.getUint32(8, true);
  let at = 16;
  const tiers: TierMesh[] = [];
  for (let i = 0; i < count; i++) {
    const role = head.getUint32(at, true);
    const part = head.getUint32(at + 4, true);
    const vertices = head.getUint32(at + 8, true);
    const triangles = head.getUint32(at + 12, true);
    const lined = head.getUint32(at + 16, true);
    at += 20;
    const positions = new Float32Array(bytes, at, vertices * 3);
    at += vertices * 12;
    const corners = new Uint32Array(bytes, at, triangles * 3);
    at += triangles * 12;
    const lines = new Uint32Array(bytes, at, lined * 2);
    at += lined * 8;
    tiers.push({ role, part, positions, corners, lines });
  }
  return tiers;
}
