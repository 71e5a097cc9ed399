import type { DrawnLine } from "../../api/generated/DrawnLine";
import type { Node } from "../../api/generated/Node";
import type { Px } from "../artwork/frame";
import { distance } from "./lines";

/** The nodes before and after one, where straight pieces lead to both. */
function sides(line: DrawnLine, i: number): [Px, Px] | null {
  const n = line.nodes.length;
  const at = (k: number) => (line.is_closed ? line.nodes[(k + n) % n] : line.nodes[k]);
  const [a, here, b] = [at(i - 1), at(i), at(i + 1)];
  if (!a || !here || !b || a === b) return null;
  return a.after || here.before || here.after || b.before ? null : [a.at, b.at];
}

/** Whether a node is a corner between two straight pieces. */
export const canRound = (line: DrawnLine, i: number) => sides(line, i) !== null;

/**
 * The line with those of its corners rounded by a radius (pixels): an arc that touches both sides, as large as their
 * lengths allow; neighbours that are rounded too share a side.
 */
export function rounded(line: DrawnLine, isChosen: (i: number) => boolean, radius: number): DrawnLine {
  const n = line.nodes.length;
  const isRound = (i: number) => isChosen((i + n) % n) && canRound(line, (i + n) % n);
  const nodes = line.nodes.flatMap((here, i): Node[] => {
    const ends = isRound(i) ? sides(line, i) : null;
    if (!ends) return [here];
    const [p, q] = ends.map((end) => {
      const d = distance(end, here.at);
      return { d, way: [(end[0] - here.at[0]) / d, (end[1] - here.at[1]) / d] as Px };
    });
    if (!p || !q || p.d === 0 || q.d === 0) return [here];
    const cos = p.way[0] * q.way[0] + p.way[1] * q.way[1];
    // Half of the angle between the sides; a straight run and a spike have no arc.
    const half = Math.acos(Math.min(1, Math.max(-1, cos))) / 2;
    if (half < 1e-3 || half > Math.PI / 2 - 1e-3) return [here];
    const most = Math.min(p.d * (isRound(i - 1) ? 0.5 : 1), q.d * (isRound(i + 1) ? 0.5 : 1));
    const back = Math.min(radius / Math.tan(half), most * 0.999);
    const r = back * Math.tan(half);
    // Handles of an arc: 4/3 tan(a / 4) of its radius.
    const handle = (4 / 3) * Math.tan((Math.PI - 2 * half) / 4) * r;
    const along = (way: Px, d: number): Px => [here.at[0] + way[0] * d, here.at[1] + way[1] * d];
    return [
      { at: along(p.way, back), before: null, after: along(p.way, back - handle) },
      { at: along(q.way, back), before: along(q.way, back - handle), after: null },
    ];
  });
  return { ...line, nodes };
}
