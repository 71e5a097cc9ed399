import { Line } from "@react-three/drei";
import { useFrame, useThree } from "@react-three/fiber";
import { Fragment, type RefObject, useEffect, useMemo } from "react";
import { Vector3 } from "three";
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

/** The middle of a dimension's line, where its figure stands. */
const middleOf = ({ line: [a, b] }: Dimensioned): Place => [
  (a[0] + b[0]) / 2,
  (a[1] + b[1]) / 2,
  (a[2] + b[2]) / 2,
];

interface BoxProps {
  low: Place;
  high: Place;
}

/**
 * The lines of the dimensions, in space. With every frame the figures, which lie over the canvas as {@link MeasureFigures},
 * are put beside them.
 */
export function SolidMeasures(p: BoxProps & { colour: string; figures: RefObject<HTMLDivElement | null> }) {
  const { low, high, figures } = p;
  const invalidate = useThree((s) => s.invalidate);
  const all = useMemo(() => dimensions(low, high), [low, high]);
  useEffect(() => invalidate(), [invalidate]);
  useFrame(({ camera, size }) => {
    for (const [k, d] of all.entries()) {
      const figure = figures.current?.children[k];
      if (!(figure instanceof HTMLElement)) continue;
      const at = new Vector3(...middleOf(d)).project(camera);
      const [x, y] = [((at.x + 1) * size.width) / 2, ((1 - at.y) * size.height) / 2];
      figure.style.transform = `translate(${x}px, ${y}px) translate(-50%, -50%)`;
    }
  });
  return all.map((d) => (
    <Fragment key={d.name}>
      <Line points={d.line} color={p.colour} lineWidth={1.4} />
      <Line points={[d.feet[0], d.line[0]]} color={p.colour} lineWidth={0.7} />
      <Line points={[d.feet[1], d.line[1]]} color={p.colour} lineWidth={0.7} />
    </Fragment>
  ));
}

/**
 * The figures of the dimensions, over the canvas. They belong to the page's own React root: a root for each figure, as the
 * scene's library makes them, can lose one that is mounted while the canvas is being connected.
 */
export function MeasureFigures(p: BoxProps & { unit: Unit; hold: RefObject<HTMLDivElement | null> }) {
  return (
    <div ref={p.hold} className="pointer-events-none absolute inset-0 overflow-hidden">
      {dimensions(p.low, p.high).map((d) => (
        <span
          key={d.name}
          className="absolute top-0 left-0 rounded-xs bg-tile px-1 text-xs font-semibold whitespace-nowrap text-ink tabular-nums"
          data-solid-measure={d.name}
        >
          {withUnit(d.mm, p.unit, 1)}
        </span>
      ))}
    </div>
  );
}
