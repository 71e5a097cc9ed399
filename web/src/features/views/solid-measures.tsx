import { Html, Line } from "@react-three/drei";
import { Fragment } from "react";
import type { Unit } from "../../api/generated/Unit";
import { withUnit } from "../../ui/length";

type Place = [number, number, number];

/** A dimension in space: the line itself, and the two that lead to it. */
interface Dimensioned {
  name: string;
  line: [Place, Place];
  feet: [Place, Place];
  mm: number;
}

/** Width, depth and height along the box of the object, a little off it. */
export function dimensions(low: Place, high: Place): Dimensioned[] {
  const off = Math.max(high[0] - low[0], high[1] - low[1]) * 0.06 + 1;
  const [left, right, front, back, foot, top] = [low[0], high[0], low[1], high[1], low[2], high[2]];
  const along = (name: string, feet: [Place, Place], [dx, dy]: [number, number]): Dimensioned => {
    const moved = ([x, y, z]: Place): Place => [x + dx, y + dy, z];
    const [a, b] = feet;
    return { name, feet, line: [moved(a), moved(b)], mm: Math.hypot(b[0] - a[0], b[1] - a[1], b[2] - a[2]) };
  };
  const corner: Place = [right, front, foot];
  return [
    along("width", [[left, front, foot], corner], [0, -off]),
    along("depth", [corner, [right, back, foot]], [off, 0]),
    along("height", [corner, [right, front, top]], [off, -off]),
  ];
}

/** The measures of the whole object, drawn in space. */
export function SolidMeasures(p: { low: Place; high: Place; unit: Unit; colour: string }) {
  return dimensions(p.low, p.high).map((d) => {
    const [a, b] = d.line;
    const middle: Place = [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2, (a[2] + b[2]) / 2];
    return (
      <Fragment key={d.name}>
        <Line points={d.line} color={p.colour} lineWidth={1.4} />
        <Line points={[d.feet[0], a]} color={p.colour} lineWidth={0.7} />
        <Line points={[d.feet[1], b]} color={p.colour} lineWidth={0.7} />
        <Html position={middle} center zIndexRange={[10, 0]} className="pointer-events-none">
          <span
            className="rounded-xs bg-tile px-1 text-xs font-semibold whitespace-nowrap text-ink tabular-nums"
            data-solid-measure={d.name}
          >
            {withUnit(d.mm, p.unit, 1)}
          </span>
        </Html>
      </Fragment>
    );
  });
}
