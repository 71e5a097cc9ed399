import type { Ribbon } from "./solid-props";

/** Ends of the lines of a path of moves, straight lines and closings, mm, y up. */
function linesOf(path: string): [number, number][][] {
  return path
    .split("M")
    .filter((d) => d !== "")
    .map((d) => {
      const points = d
        .replace("Z", "")
        .split("L")
        .map((at): [number, number] => {
          const [x, y] = at.trim().split(/[ ,]+/);
          return [Number(x), -Number(y)];
        });
      const [first] = points;
      if (d.endsWith("Z") && first) points.push(first);
      return points;
    });
}

/** Corners of triangles that lie flat, x and y: each straight piece a rectangle as wide as its line, drawn on by half its width so that
 * corners close. */
export function flat(ribbons: readonly Ribbon[]): { corners: Float32Array; counts: number[] } {
  const all: number[] = [];
  const counts: number[] = [];
  for (const r of ribbons) {
    const before = all.length;
    const half = r.width / 2;
    for (const line of linesOf(r.path)) {
      line.forEach(([x1, y1], k) => {
        const last = line[k - 1];
        if (!last) return;
        const [x0, y0] = last;
        const long = Math.hypot(x1 - x0, y1 - y0);
        if (!(long > 0)) return;
        const [ux, uy] = [((x1 - x0) / long) * half, ((y1 - y0) / long) * half];
        const [ax, ay, bx, by] = [x0 - ux * 0.5, y0 - uy * 0.5, x1 + ux * 0.5, y1 + uy * 0.5];
        const [a, b, c, d] = [
          [ax - uy, ay + ux],
          [ax + uy, ay - ux],
          [bx + uy, by - ux],
          [bx - uy, by + ux],
        ] as const;
        all.push(...a, ...b, ...c, ...a, ...c, ...d);
      });
    }
    counts.push((all.length - before) / 2);
  }
  return { corners: new Float32Array(all), counts };
}
