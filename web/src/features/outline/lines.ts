import type { DrawnLine } from "../../api/generated/DrawnLine";
import type { MmPoint } from "../../api/generated/MmPoint";
import type { Node } from "../../api/generated/Node";
import type { PxPoint } from "../../api/generated/PxPoint";
import type { Px } from "../artwork/frame";

export const corner = (at: Px): Node => ({ at, before: null, after: null });

const add = ([a, b]: Px, [c, d]: Px): Px => [a + c, b + d];
const sub = ([a, b]: Px, [c, d]: Px): Px => [a - c, b - d];
const times = ([a, b]: Px, k: number): Px => [a * k, b * k];
export const distance = <P extends PxPoint | MmPoint>(p: P, q: P) => Math.hypot(p[0] - q[0], p[1] - q[1]);
const mix = (p: Px, q: Px, t: number): Px => [p[0] + (q[0] - p[0]) * t, p[1] + (q[1] - p[1]) * t];

/** A piece of a line as a cubic. */
export type Cubic<P = Px> = [P, P, P, P];

/** The pieces of a line; a closed one's last piece leads back to its first node. */
export function piecesOf(line: DrawnLine): Cubic[] {
  const { nodes, is_closed } = line;
  return nodes.flatMap((a, i): Cubic[] => {
    const b = nodes[i + 1] ?? (is_closed ? nodes[0] : undefined);
    return b ? [[a.at, a.after ?? a.at, b.before ?? b.at, b.at]] : [];
  });
}

const isStraight = ([a, b, c, d]: Cubic) => b === a && c === d;

/** SVG path data of lines, through `to`. */
export function pathOf(lines: readonly DrawnLine[], to: (p: Px) => Px = (p) => p): string {
  const words = (p: Px) => {
    const [x, y] = to(p);
    return `${x.toFixed(2)} ${y.toFixed(2)}`;
  };
  return lines
    .map((line) => {
      const first = line.nodes[0];
      if (!first) return "";
      const rest = piecesOf(line).map((c) =>
        isStraight(c) ? `L${words(c[3])}` : `C${words(c[1])} ${words(c[2])} ${words(c[3])}`,
      );
      return `M${words(first.at)}${rest.join("")}${line.is_closed ? "Z" : ""}`;
    })
    .join("");
}

export function pointOn([a, b, c, d]: Cubic, t: number): Px {
  const [p, q, r] = [mix(a, b, t), mix(b, c, t), mix(c, d, t)];
  return mix(mix(p, q, t), mix(q, r, t), t);
}

/** SVG path data of M, L, C and Z as cubics. */
export function cubicsOf<P extends PxPoint | MmPoint = Px>(path: string): Cubic<P>[] {
  const out: Cubic<P>[] = [];
  const origin = [0, 0] as [number, number] as P;
  let start: P = origin;
  let at: P = origin;
  for (const [, command, numbers] of path.matchAll(/([MLCZ])([^MLCZ]*)/g)) {
    const n = (numbers ?? "")
      .trim()
      .split(/[\s,]+/)
      .map(Number);
    const p = (k: number): P => [n[k] ?? 0, n[k + 1] ?? 0] as [number, number] as P;
    if (command === "M") start = at = p(0);
    else if (command === "L") {
      const to = p(0);
      out.push([at, at, to, to]);
      at = to;
    } else if (command === "C") {
      out.push([at, p(0), p(2), p(4)]);
      at = p(4);
    } else {
      if (distance(at, start) > 1e-9) out.push([at, at, start, start]);
      at = start;
    }
  }
  return out;
}

/** The nearest place on a piece: sampled, then narrowed. */
export function nearestOn(c: Cubic, p: Px): { t: number; at: Px; off: number } {
  if (isStraight(c)) {
    const d = sub(c[3], c[0]);
    const length = d[0] ** 2 + d[1] ** 2;
    const along = length === 0 ? 0 : ((p[0] - c[0][0]) * d[0] + (p[1] - c[0][1]) * d[1]) / length;
    const t = Math.min(1, Math.max(0, along));
    const at = mix(c[0], c[3], t);
    return { t, at, off: distance(at, p) };
  }
  let [t, off] = [0, Number.POSITIVE_INFINITY];
  for (let k = 0; k <= 12; k++) {
    const d = distance(pointOn(c, k / 12), p);
    if (d < off) [t, off] = [k / 12, d];
  }
  for (let step = 1 / 24; step > 1e-4; step /= 2) {
    for (const u of [t - step, t + step]) {
      const d = u >= 0 && u <= 1 ? distance(pointOn(c, u), p) : Number.POSITIVE_INFINITY;
      if (d < off) [t, off] = [u, d];
    }
  }
  return { t, at: pointOn(c, t), off };
}

/** The line with one more node on its piece `index`, at `t`; its shape stays. */
export function split(line: DrawnLine, index: number, t: number): DrawnLine {
  const piece = piecesOf(line)[index];
  if (!piece) return line;
  const nodes = line.nodes.map((n) => ({ ...n }));
  const next = (index + 1) % nodes.length;
  const [from, to] = [nodes[index], nodes[next]];
  if (!from || !to) return line;
  let made: Node = corner(pointOn(piece, t));
  if (!isStraight(piece)) {
    const [a, b, c, d] = piece;
    const [p, q, r] = [mix(a, b, t), mix(b, c, t), mix(c, d, t)];
    [from.after, to.before] = [p, r];
    made = { at: made.at, before: mix(p, q, t), after: mix(q, r, t) };
  }
  nodes.splice(index + 1, 0, made);
  return { ...line, nodes };
}

/** A node made smooth: handles along the line through its neighbours, each a third of the way. */
export function smooth(line: DrawnLine, i: number): Node {
  const n = line.nodes.length;
  const here = line.nodes[i] ?? corner([0, 0]);
  const wrap = (k: number) => (line.is_closed ? line.nodes[(k + n) % n] : line.nodes[k]);
  const [a, b] = [wrap(i - 1), wrap(i + 1)];
  if (!a || !b) return here;
  const way = sub(b.at, a.at);
  const length = Math.hypot(...way) || 1;
  const third = (p: Px) => distance(p, here.at) / 3 / length;
  return {
    at: here.at,
    before: sub(here.at, times(way, third(a.at))),
    after: add(here.at, times(way, third(b.at))),
  };
}

/** A node elsewhere, its handles with it. */
export function movedNode(n: Node, by: Px): Node {
  const to = (p: Px | null) => (p ? add(p, by) : null);
  return { at: add(n.at, by), before: to(n.before), after: to(n.after) };
}

/** The place nearest to `to` that lies in a direction of whole 15 degrees from `from`. */
export function straightened(from: Px, to: Px): Px {
  const step = Math.PI / 12;
  const angle = Math.round(Math.atan2(to[1] - from[1], to[0] - from[0]) / step) * step;
  const along = (to[0] - from[0]) * Math.cos(angle) + (to[1] - from[1]) * Math.sin(angle);
  return [from[0] + along * Math.cos(angle), from[1] + along * Math.sin(angle)];
}

/** Nodes after `from` of the circular arc over `by` to `to`: a cubic for every quarter turn or less. Null where they lie on one line. */
export function arc(from: Px, by: Px, to: Px): { after: Px; nodes: Node[] } | null {
  const [b, c] = [sub(by, from), sub(to, from)];
  const d = 2 * (b[0] * c[1] - b[1] * c[0]);
  const [bb, cc] = [b[0] ** 2 + b[1] ** 2, c[0] ** 2 + c[1] ** 2];
  if (Math.abs(d) < 1e-6 * Math.max(bb, cc)) return null;
  const centre: Px = add(from, [(c[1] * bb - b[1] * cc) / d, (b[0] * cc - c[0] * bb) / d]);
  const angle = (p: Px) => Math.atan2(p[1] - centre[1], p[0] - centre[0]);
  const turn = (p: Px) => (angle(p) - angle(from) + 4 * Math.PI) % (2 * Math.PI);
  const sweep = turn(by) < turn(to) ? turn(to) : turn(to) - 2 * Math.PI;
  const count = Math.max(1, Math.ceil(Math.abs(sweep) / (Math.PI / 2) - 1e-9));
  const r = distance(from, centre);
  // The usual length of handles for an arc: 4/3 tan(a / 4).
  const k = (4 / 3) * Math.tan(sweep / count / 4) * r;
  const at = (a: number): Px => [centre[0] + r * Math.cos(a), centre[1] + r * Math.sin(a)];
  const along = (a: number): Px => [-Math.sin(a) * k, Math.cos(a) * k];
  const nodes = Array.from({ length: count }, (_, i): Node => {
    const a = angle(from) + (sweep * (i + 1)) / count;
    const isLast = i === count - 1;
    const here = isLast ? to : at(a);
    return { at: here, before: sub(here, along(a)), after: isLast ? null : add(here, along(a)) };
  });
  return { after: add(from, along(angle(from))), nodes };
}

/** Whether a place lies in the loop. */
export function isInside([x, y]: Px, loop: readonly Px[]): boolean {
  let inside = false;
  loop.forEach(([ax, ay], i) => {
    const [bx, by] = loop[(i + 1) % loop.length] ?? [0, 0];
    if (ay > y !== by > y && ax + ((y - ay) / (by - ay)) * (bx - ax) > x) inside = !inside;
  });
  return inside;
}
