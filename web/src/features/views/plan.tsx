import { type ReactNode, useId, useRef, useState } from "react";
import type { PlaceView } from "../../api/generated/PlaceView";
import type { ResultView } from "../../api/generated/ResultView";
import type { Unit } from "../../api/generated/Unit";
import { type Side, useInterface } from "../../state/interface";
import { stepsOf, withUnit } from "../../ui/length";
import { REACH } from "../../ui/reach";
import { Dimension, ScaleBar } from "./drawing";
import { type Extent, fitScale, useExtent } from "./frame";
import { Places } from "./places";
import { TierShapes } from "./tier-shapes";

export interface PlanProps {
  result: ResultView;
  unit: Unit;
  side: Side;
  /** Pixels to a millimetre, where another view shares it; else the plan fits itself. */
  scale?: number | undefined;
  /** Draws the cutting line and says where it is moved to. */
  onCut?: (y: number, isDone: boolean) => void;
  /** Index of the finding that is pointed at; all places are drawn while this is given. */
  finding?: number | null;
  /** Which of its places is looked at. */
  place?: number | null;
  /** Places that were measured, to be shown. */
  shown?: readonly PlaceView[];
  /** What is drawn over it, in the world of the plan: millimetres as the picture reads, y down. */
  over?: (k: number) => ReactNode;
}

const ROOM = 46;

/** Half the plan's extent that has to be seen, around the middle of the edge. */
export function planBox(result: ResultView): { width: number; height: number } {
  const reach = result.solid?.reach;
  const o = result.outline;
  const edge = { width: o?.width ?? 90, height: o?.height ?? 90 };
  // The edge is centred; a loose detail may reach out further on one side.
  return { width: Math.max(edge.width, reach?.[0] ?? 0), height: Math.max(edge.height, reach?.[1] ?? 0) };
}

/** From above, to scale; as the cookie reads, or as the tool is printed. */
export function Plan(p: PlanProps) {
  const [element, setElement] = useState<HTMLDivElement | null>(null);
  const extent = useExtent(element);
  return (
    <div ref={setElement} className="absolute inset-0">
      {extent.width > 0 && <PlanDrawing {...p} extent={extent} />}
    </div>
  );
}

function PlanDrawing(p: PlanProps & { extent: Extent }) {
  const id = useId();
  const { extent, result, unit } = p;
  const box = planBox(result);
  const k = p.scale ?? fitScale(box, extent, ROOM);
  const [cx, cy] = [extent.width / 2, extent.height / 2 - 6];
  const flip = p.side === "tool" ? -1 : 1;
  const world = `translate(${cx} ${cy}) scale(${k * flip} ${k})`;
  // Tiers come as the tool is printed; the world is as the cookie reads.
  const tool = result.is_mirrored ? "scale(-1 1)" : undefined;
  const o = result.outline;
  // What the measure that is pointed at is of.
  const measure = useInterface((s) => s.measure);
  const lit = measure === null ? [] : result.tiers.filter((t) => t.handles.some((h) => h.name === measure));
  const [half, bottom] = [(box.width / 2) * k, cy + (box.height / 2) * k];
  // Of a cutter the cookie, of a plate the plate.
  const across = result.edge_size?.[0] ?? o?.width ?? 0;
  const edge = (across / 2) * k;
  return (
    <svg
      width={extent.width}
      height={extent.height}
      className="block"
      role={p.onCut ? "group" : "img"}
      aria-label="Plan"
    >
      <defs>
        <pattern id={`${id}-grid`} width={10 * k} height={10 * k} patternUnits="userSpaceOnUse" x={cx} y={cy}>
          <circle cx="0.8" cy="0.8" r="0.8" fill="var(--line)" />
        </pattern>
      </defs>
      <rect width="100%" height="100%" fill={`url(#${id}-grid)`} />
      <g transform={world}>
        <g transform={tool}>
          <TierShapes result={result} isNamed />
          {lit.map((t) => (
            <path
              key={t.key}
              d={t.path}
              fill="none"
              stroke="var(--glaze)"
              strokeWidth={2.5}
              vectorEffect="non-scaling-stroke"
              data-lit={t.key}
            />
          ))}
          <path
            d={result.edge_path}
            fill="none"
            stroke="var(--ink)"
            strokeWidth="1"
            vectorEffect="non-scaling-stroke"
          />
        </g>
        {p.finding !== undefined && (
          <Places result={result} finding={p.finding} place={p.place ?? null} k={k} />
        )}
        {p.shown && (
          <path
            transform={result.is_mirrored ? "scale(-1 1)" : undefined}
            d={p.shown.map((s) => s.path).join("")}
            fill="var(--glaze)"
            fillOpacity={0.35}
            fillRule="evenodd"
            stroke="var(--glaze)"
            strokeWidth={3}
            vectorEffect="non-scaling-stroke"
            data-testid="shown"
          />
        )}
      </g>
      {p.onCut && (
        <CutLine
          left={Math.max(6, cx - half - 26)}
          right={Math.min(extent.width - 6, cx + half + 26)}
          middle={cy}
          centre={cx}
          flip={flip}
          k={k}
          most={box.height / 2}
          onCut={p.onCut}
        />
      )}
      {/* Above the section line, so that the pointer finds what lies on it. */}
      {p.over && <g transform={world}>{p.over(k)}</g>}
      {o && edge > 20 && (
        <Dimension
          from={[cx - edge, Math.min(extent.height - 20, bottom + 18)]}
          to={[cx + edge, Math.min(extent.height - 20, bottom + 18)]}
          at={[
            [cx - edge, bottom + 2],
            [cx + edge, bottom + 2],
          ]}
          text={withUnit(across, unit, 1)}
        />
      )}
      <ScaleBar x={10} y={extent.height - 12} pxPerMm={k} unit={unit} />
    </svg>
  );
}

/** The line A–A: dragged across, turned at its end, or moved and turned by keys. */
function CutLine(p: {
  left: number;
  right: number;
  middle: number;
  centre: number;
  flip: number;
  k: number;
  most: number;
  onCut: (y: number, isDone: boolean) => void;
}) {
  const section = useInterface((s) => s.section);
  const turned = useInterface((s) => s.turned);
  const grip = useRef<{ x: number; y: number; value: number } | null>(null);
  const turning = useRef<Element | null>(null);
  const most = Math.floor(p.most);
  const bounded = (mm: number) => Math.min(most, Math.max(-most, Math.round(mm * 2) / 2));
  const turn = (degrees: number, isDone: boolean) => {
    // A line has no direction: half a turn is none.
    const within = ((((Math.round(degrees) + 90) % 180) + 180) % 180) - 90;
    useInterface.setState({ turned: within === -90 ? 90 : within });
    p.onCut(useInterface.getState().section, isDone);
  };
  const y = p.middle - section * p.k;
  // On the screen y goes down and the plan may be mirrored.
  const angle = -turned * p.flip;
  const across = (dx: number, dy: number) => {
    const a = (angle * Math.PI) / 180;
    return dx * Math.sin(a) - dy * Math.cos(a);
  };
  const half = (p.right - p.left) / 2;
  return (
    <g transform={`rotate(${angle} ${p.centre} ${y})`}>
      <g
        role="slider"
        tabIndex={0}
        aria-label="Section line"
        aria-orientation="vertical"
        aria-valuemin={-most}
        aria-valuemax={most}
        aria-valuenow={section}
        data-handle="section"
        className="cursor-ns-resize touch-none text-ink outline-none focus-visible:text-glaze"
        onPointerDown={(e) => {
          e.currentTarget.setPointerCapture(e.pointerId);
          grip.current = { x: e.clientX, y: e.clientY, value: section };
        }}
        onPointerMove={(e) => {
          const g = grip.current;
          if (!g) return;
          const mm = bounded(g.value + across(e.clientX - g.x, e.clientY - g.y) / p.k);
          if (mm !== section) p.onCut(mm, false);
        }}
        onPointerUp={() => {
          grip.current = null;
          p.onCut(section, true);
        }}
        onPointerCancel={() => {
          grip.current = null;
          p.onCut(section, true);
        }}
        onKeyDown={(e) => {
          const steps = stepsOf(e);
          if (steps === 0) return;
          e.preventDefault();
          p.onCut(bounded(section + steps), true);
        }}
      >
        <path d={`M${p.left} ${y}H${p.right}`} stroke="transparent" strokeWidth={Math.max(14, 2 * REACH)} />
        <path d={`M${p.left} ${y}H${p.right}`} stroke="currentColor" strokeDasharray="14 4 3 4" />
        {[p.left + 6, p.right - 6].map((x) => (
          <g key={x}>
            <path d={`M${x - 4} ${y - 3}h8l-4 -6z`} fill="currentColor" />
            <text x={x} y={y - 13} textAnchor="middle" fontSize="13" fontWeight="700">
              A
            </text>
          </g>
        ))}
      </g>
      <g
        role="slider"
        tabIndex={0}
        aria-label="Turn of the section line"
        aria-valuemin={-90}
        aria-valuemax={90}
        aria-valuenow={turned}
        aria-valuetext={`${turned} degrees`}
        data-handle="section-turn"
        transform={`translate(${p.centre + half - 22} ${y})`}
        className="cursor-grab touch-none text-glaze outline-none [&:focus-visible_circle]:stroke-[3px]"
        onPointerDown={(e) => {
          e.currentTarget.setPointerCapture(e.pointerId);
          turning.current = e.currentTarget.ownerSVGElement;
        }}
        onPointerMove={(e) => {
          const svg = turning.current?.getBoundingClientRect();
          if (!svg) return;
          const [dx, dy] = [e.clientX - svg.left - p.centre, e.clientY - svg.top - y];
          const degrees = (Math.atan2(-dy, dx * p.flip) * 180) / Math.PI;
          turn(e.shiftKey ? Math.round(degrees / 15) * 15 : degrees, false);
        }}
        onPointerUp={() => {
          turning.current = null;
          p.onCut(section, true);
        }}
        onPointerCancel={() => {
          turning.current = null;
        }}
        onKeyDown={(e) => {
          const steps = stepsOf(e);
          if (steps === 0) return;
          e.preventDefault();
          turn(turned + steps, true);
        }}
      >
        <circle r={Math.max(9, REACH)} fill="transparent" stroke="none" />
        <circle r="5" fill="var(--tile)" stroke="currentColor" strokeWidth="1.8" />
      </g>
    </g>
  );
}
