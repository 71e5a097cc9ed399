import type { PlanGroup } from "../../api/generated/PlanGroup";
import type { PlanLines } from "../../api/generated/PlanLines";
import type { Pose } from "../../api/generated/Pose";

/** A line of a path: its own piece of it, how long it is, and where it ends. */
export interface Stroke {
  d: string;
  length: number;
  points: [number, number][];
}

/** The lines of an SVG path of moves, straight lines and closings. */
export function strokesOf(path: string): Stroke[] {
  return path
    .split("M")
    .filter((d) => d !== "")
    .map((d) => {
      const isClosed = d.endsWith("Z");
      const points = d
        .replace("Z", "")
        .split("L")
        .map((at): [number, number] => {
          const [x, y] = at.trim().split(/[ ,]+/);
          return [Number(x), Number(y)];
        });
      const [first] = points;
      if (isClosed && first) points.push(first);
      let length = 0;
      points.forEach(([x, y], k) => {
        const before = points[k - 1];
        if (before) length += Math.hypot(x - before[0], y - before[1]);
      });
      return { d: `M${d}`, length, points };
    });
}

/** Where a point of an object comes to lie, y down. */
export function posed([x, y]: readonly [number, number], at: Pose): [number, number] {
  const turn = (-at.degrees * Math.PI) / 180;
  const [c, s] = [Math.cos(turn), Math.sin(turn)];
  return [x * c - y * s + at.x, x * s + y * c - at.y];
}

/** A group with its lines taken apart, and how long they are together in one place. */
interface Measured {
  group: PlanGroup;
  lines: { line: PlanLines; strokes: Stroke[] }[];
  length: number;
}

/** A layer's lines, measured. */
export function measuredOf(groups: readonly PlanGroup[]): Measured[] {
  return groups.map((group) => {
    const lines = group.lines.map((line) => ({ line, strokes: strokesOf(line.path) }));
    const length = lines.flatMap((l) => l.strokes).reduce((sum, t) => sum + t.length, 0);
    return { group, lines, length };
  });
}

/** What of a layer is laid when a share of its length is, and where the nozzle is then, y down. */
export function laidOf(
  groups: readonly Measured[],
  share: number,
): { laid: PlanGroup[]; nozzle: [number, number] | null } {
  let left = share * groups.reduce((sum, g) => sum + g.length * g.group.poses.length, 0);
  let nozzle: [number, number] | null = null;
  const laid: PlanGroup[] = [];
  for (const g of groups) {
    for (const pose of g.group.poses) {
      if (left <= 0) return { laid, nozzle };
      if (left >= g.length) {
        left -= g.length;
        laid.push({ lines: g.group.lines, poses: [pose] });
        const last = g.lines.at(-1)?.strokes.at(-1)?.points.at(-1);
        if (last) nozzle = posed(last, pose);
        continue;
      }
      const lines = [];
      for (const { line, strokes } of g.lines) {
        let path = "";
        for (const t of strokes) {
          if (left <= 0) break;
          const part = along(t, left);
          path += part.d;
          nozzle = posed(part.end, pose);
          left -= t.length;
        }
        if (path !== "") lines.push({ ...line, path });
      }
      laid.push({ lines, poses: [pose] });
    }
  }
  return { laid, nozzle };
}

/** A line as far as its first `length`. */
function along(t: Stroke, length: number): { d: string; end: [number, number] } {
  const end = t.points.at(-1) ?? [0, 0];
  if (length >= t.length) return { d: t.d, end };
  let left = length;
  let last = t.points[0] ?? [0, 0];
  let d = `M${last[0]} ${last[1]}`;
  for (const at of t.points.slice(1)) {
    const step = Math.hypot(at[0] - last[0], at[1] - last[1]);
    if (step >= left) {
      const k = step > 0 ? left / step : 0;
      const stop: [number, number] = [last[0] + k * (at[0] - last[0]), last[1] + k * (at[1] - last[1])];
      return { d: `${d}L${stop[0]} ${stop[1]}`, end: stop };
    }
    d += `L${at[0]} ${at[1]}`;
    left -= step;
    last = at;
  }
  return { d, end: last };
}
