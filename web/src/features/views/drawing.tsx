/** The conventions of engineering drawings: thin dimension lines, figures above, hatching, dash-dot centre lines. */

import type { Unit } from "../../api/generated/Unit";
import { barLength } from "./frame";
import { type Family, rgb } from "./look";

const FAMILIES: [Family, number][] = [
  ["flange", 45],
  ["wall", -45],
  ["stamp", 45],
];

/** A few words on a drawing, legible on whatever lies under them. */
export function Words({ x, y, children }: { x: number; y: number; children: string }) {
  return (
    <text
      x={x}
      y={y}
      fontSize={11}
      fill="var(--terracotta)"
      stroke="var(--tile)"
      strokeWidth={3}
      paintOrder="stroke"
    >
      {children}
    </text>
  );
}

/** Hatch patterns, one a family or a filament, in opposite slants where they meet. */
export function Hatches({ id, colours }: { id: string; colours?: readonly (readonly number[])[] }) {
  const all: [string, string, string, number][] = colours
    ? colours.map((c, i) => [`c${i}`, rgb(c), "var(--ink)", i % 2 === 0 ? 45 : -45])
    : FAMILIES.map(([name, turn]) => [
        name,
        `var(--${name})`,
        name === "stamp" ? "var(--stamp)" : "var(--wall)",
        turn,
      ]);
  return (
    <defs>
      {all.map(([name, fill, line, turn]) => (
        <pattern
          key={name}
          id={`${id}-${name}`}
          width="5"
          height="5"
          patternUnits="userSpaceOnUse"
          patternTransform={`rotate(${turn})`}
        >
          <rect width="5" height="5" fill="var(--tile)" />
          <rect
            width="5"
            height="5"
            fill={fill}
            fillOpacity={colours ? 0.75 : name === "wall" ? 0.3 : 0.42}
          />
          <path d="M0 0V5" stroke={line} strokeWidth={colours ? 0.7 : 1.3} />
        </pattern>
      ))}
    </defs>
  );
}

const HEAD = 5;

/** How far a dimension reaches out over its ends: one too short for heads inside has them point in from outside. */
export const over = (length: number) => (length < 4 * HEAD ? HEAD * 2.2 : 0);

/** A dimension: extension lines, a line with filled heads, the figure above it. Pixels. */
export function Dimension(p: {
  from: [number, number];
  to: [number, number];
  /** Where the measured points are, for the extension lines. */
  at?: [[number, number], [number, number]];
  text: string;
  isLive?: boolean;
}) {
  const [x1, y1] = p.from;
  const [x2, y2] = p.to;
  const length = Math.hypot(x2 - x1, y2 - y1);
  if (length < 1) return null;
  const [ux, uy] = [(x2 - x1) / length, (y2 - y1) / length];
  const isUpright = Math.abs(uy) > Math.abs(ux);
  const past = over(length);
  const way = past > 0 ? -1 : 1;
  const head = (x: number, y: number, s: number) =>
    `M${x} ${y}L${x + s * ux * HEAD - uy * 1.8} ${y + s * uy * HEAD + ux * 1.8}L${x + s * ux * HEAD + uy * 1.8} ${y + s * uy * HEAD - ux * 1.8}Z`;
  const [mx, my] = [(x1 + x2) / 2, (y1 + y2) / 2];
  return (
    <g
      className={p.isLive ? "text-glaze" : "text-ink"}
      stroke="currentColor"
      strokeWidth={p.isLive ? 1.4 : 0.9}
    >
      {p.at?.map(([ax, ay], i) => {
        const [ex, ey] = i === 0 ? p.from : p.to;
        const d = Math.hypot(ex - ax, ey - ay) || 1;
        const beyond = 4 / d;
        return (
          <path
            key={i === 0 ? "a" : "b"}
            d={`M${ax + ((ex - ax) / d) * 3} ${ay + ((ey - ay) / d) * 3}L${ex + (ex - ax) * beyond} ${ey + (ey - ay) * beyond}`}
            opacity={0.55}
            strokeDasharray={p.isLive ? "4 3" : undefined}
          />
        );
      })}
      <path d={`M${x1 - ux * past} ${y1 - uy * past}L${x2 + ux * past} ${y2 + uy * past}`} />
      <path d={head(x1, y1, way) + head(x2, y2, -way)} fill="currentColor" stroke="none" />
      <text
        x={isUpright ? mx - 5 : mx}
        y={isUpright ? my + 4 : my - 5}
        textAnchor={isUpright ? "end" : "middle"}
        stroke="var(--tile)"
        strokeWidth="4"
        paintOrder="stroke"
        fontSize="12"
        fontWeight={p.isLive ? 700 : 500}
      >
        {p.text}
      </text>
    </g>
  );
}

/** A bar of a round length, for 'how large is this really'. */
export function ScaleBar({ x, y, pxPerMm, unit }: { x: number; y: number; pxPerMm: number; unit: Unit }) {
  const one = unit === "in" ? 25.4 : 1;
  const length = barLength(pxPerMm * one, 90);
  const w = length * pxPerMm * one;
  return (
    <g className="text-soft" transform={`translate(${x} ${y})`}>
      <rect width={w / 2} height="4" fill="currentColor" />
      <rect x={w / 2} width={w / 2} height="4" fill="none" stroke="currentColor" />
      <text x={w + 6} y="5.5" fontSize="11">
        {length} {unit}
      </text>
    </g>
  );
}
