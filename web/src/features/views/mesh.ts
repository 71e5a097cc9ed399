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
