import type { TierMesh } from "../../api/mesh";

/** The same with corners that fall into one cell of a grid put together: far fewer triangles, near enough while it turns. */
export function coarsened(mesh: TierMesh, cell: number): TierMesh {
  const { positions, corners } = mesh;
  const cells = new Map<number, number>();
  const places: number[] = [];
  const of = new Uint32Array(positions.length / 3);
  for (let v = 0; v < of.length; v++) {
    const at = [0, 1, 2].map((k) => positions[v * 3 + k] ?? 0);
    // Cells lie within 4096 of the middle each way.
    const key = at.reduce((k, c) => k * 8192 + Math.round(c / cell) + 4096, 0);
    let id = cells.get(key);
    if (id === undefined) {
      id = places.length / 3;
      cells.set(key, id);
      // The first one there stands for all of them: true corners stay where they are.
      places.push(...at);
    }
    of[v] = id;
  }
  const kept: number[] = [];
  for (let t = 0; t < corners.length; t += 3) {
    const [a, b, c] = [0, 1, 2].map((k) => of[corners[t + k] ?? 0] ?? 0) as [number, number, number];
    if (a !== b && b !== c && c !== a) kept.push(a, b, c);
  }
  return { ...mesh, positions: new Float32Array(places), corners: new Uint32Array(kept) };
}

/** The lines at which faces meet at more than so many degrees, or end: six numbers a line. */
export function creases({ positions, corners }: TierMesh, degrees: number): Float32Array {
  const corner = (k: number) => corners[k] ?? 0;
  const at = (v: number, axis: number) => positions[v * 3 + axis] ?? 0;
  const normals = new Float64Array(corners.length);
  for (let t = 0; t < corners.length; t += 3) {
    const [a, b, c] = [corner(t), corner(t + 1), corner(t + 2)];
    const [ux, uy, uz] = [at(b, 0) - at(a, 0), at(b, 1) - at(a, 1), at(b, 2) - at(a, 2)];
    const [vx, vy, vz] = [at(c, 0) - at(a, 0), at(c, 1) - at(a, 1), at(c, 2) - at(a, 2)];
    const n = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx] as const;
    const long = Math.hypot(...n) || 1;
    normals.set([n[0] / long, n[1] / long, n[2] / long], t);
  }
  const flatter = Math.cos((degrees * Math.PI) / 180);
  const lines: number[] = [];
  const draw = (a: number, b: number) => {
    lines.push(at(a, 0), at(a, 1), at(a, 2), at(b, 0), at(b, 1), at(b, 2));
  };
  // Edges that have met one face, by a table of our own: a Map of thirty thousand takes as long as the frame.
  const slots = 2 ** Math.ceil(Math.log2(corners.length * 2 + 2));
  const [from, to, face] = [0, 1, 2].map(() => new Int32Array(slots)) as [Int32Array, Int32Array, Int32Array];
  for (let t = 0; t < corners.length; t += 3) {
    for (let k = 0; k < 3; k++) {
      const [p, q] = [corner(t + k), corner(t + (k === 2 ? 0 : k + 1))];
      const [a, b] = p < q ? [p, q] : [q, p];
      let slot = (Math.imul(a, 0x9e3779b1) ^ Math.imul(b, 0x85ebca6b)) >>> 0;
      for (slot %= slots; face[slot] !== 0; slot = (slot + 1) % slots) {
        if (from[slot] === a && to[slot] === b && (face[slot] as number) > 0) break;
      }
      const other = (face[slot] as number) - 1;
      if (other < 0) {
        from[slot] = a;
        to[slot] = b;
        face[slot] = t + 1;
        continue;
      }
      // Met again: it ends nowhere.
      face[slot] = -1;
      const dot =
        (normals[t] ?? 0) * (normals[other] ?? 0) +
        (normals[t + 1] ?? 0) * (normals[other + 1] ?? 0) +
        (normals[t + 2] ?? 0) * (normals[other + 2] ?? 0);
      if (dot < flatter) draw(a, b);
    }
  }
  for (let slot = 0; slot < slots; slot++)
    if ((face[slot] as number) > 0) draw(from[slot] as number, to[slot] as number);
  return new Float32Array(lines);
}

/** Least and greatest x, y and z over all tiers. */
export function boxOf(tiers: readonly TierMesh[]): {
  low: [number, number, number];
  high: [number, number, number];
} {
  const low: [number, number, number] = [
    Number.POSITIVE_INFINITY,
    Number.POSITIVE_INFINITY,
    Number.POSITIVE_INFINITY,
  ];
  const high: [number, number, number] = [
    Number.NEGATIVE_INFINITY,
    Number.NEGATIVE_INFINITY,
    Number.NEGATIVE_INFINITY,
  ];
  for (const { positions } of tiers) {
    for (let i = 0; i < positions.length; i++) {
      const k = i % 3;
      const c = positions[i] ?? 0;
      if (c < (low[k] ?? 0)) low[k] = c;
      if (c > (high[k] ?? 0)) high[k] = c;
    }
  }
  return { low, high };
}
