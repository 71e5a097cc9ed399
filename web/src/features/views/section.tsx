import { useEffect, useId, useRef, useState } from "react";
import type { Bench } from "../../api/bench";
import type { Edit } from "../../api/generated/Edit";
import type { HandleView } from "../../api/generated/HandleView";
import type { TierView } from "../../api/generated/TierView";
import { type Side, useInterface } from "../../state/interface";
import { shown, snapped, stepped, stepsOf, withUnit } from "../../ui/length";
import { Dimension, Hatches, over } from "./drawing";
import { type Extent, useExtent } from "./frame";
import { familyOf, isManyColoured } from "./look";

interface Props {
  bench: Bench;
  side: Side;
  /** Pixels to a millimetre: that of the plan above. */
  scale: number;
}

/** Cut through from the side, to scale and straight under the plan. */
export function Section(p: Props) {
  const [element, setElement] = useState<HTMLDivElement | null>(null);
  const extent = useExtent(element);
  return (
    <div ref={setElement} className="absolute inset-0">
      {extent.width > 0 && <SectionDrawing {...p} extent={extent} />}
    </div>
  );
}

/** A cut face on the screen. */
interface Face {
  tier: number;
  points: [number, number][];
  isCut: boolean;
}

/** Highest point of the section, millimetres. */
export function sectionTop(bench: Bench): number {
  return Math.max(
    8,
    ...bench.result.section.filter((c) => !c.is_cut).flatMap((c) => c.corners.map((p) => p[1])),
  );
}

/** Width of a digit of a dimension's text. */
const DIGIT_PX = 6.8;

/** Heights that stand beside the section, each once however many tiers end there. */
const MOST_HEIGHTS = 6;

function SectionDrawing({ bench, side, scale, extent }: Props & { extent: Extent }) {
  const id = useId();
  const { result, design } = bench;
  const isDragging = useInterface((s) => s.isDragging);
  const unit = design.document.unit;
  const k = scale;
  // Cuts come as the tool is printed.
  const flip = (side === "tool" ? 1 : -1) * (result.is_mirrored ? 1 : -1);
  const [cx, bed] = [extent.width / 2, extent.height - 30];
  const many = isManyColoured(result);
  const filaments = [...new Set(result.tiers.filter((t) => !t.is_cut).map((t) => t.filament))];
  const hatch = (t: TierView | undefined) =>
    many && t
      ? `url(#${id}-c${filaments.indexOf(t.filament)})`
      : `url(#${id}-${familyOf(t?.role ?? "wall")})`;
  const colours = many
    ? filaments.map((f) => result.tiers.find((t) => t.filament === f && !t.is_cut)?.colour ?? [0, 0, 0])
    : null;
  const faces: Face[] = result.section.map((c) => ({
    tier: c.tier,
    isCut: c.is_cut,
    points: c.corners.map(([x, z]) => [cx + flip * x * k, bed - z * k]),
  }));
  const xs = faces.filter((f) => !f.isCut).flatMap((f) => f.points.map((p) => p[0]));
  const left = Math.min(...xs, cx);
  const right = Math.max(...xs, cx);
  const top = Math.max(
    0,
    ...result.section.filter((c) => !c.is_cut).flatMap((c) => c.corners.map((p) => p[1])),
  );
  // Layer lines only where they can be told apart.
  const each = [1, 5, 10, 25].find((n) => n * result.layer * k >= 5) ?? 50;
  const lines = Math.floor(top / result.layer / each);
  const boxOf = (tier: number) => {
    const own = faces.filter((f) => f.tier === tier).flatMap((f) => f.points);
    if (own.length === 0) return null;
    const x = own.map((p) => p[0]);
    const [leftmost, rightmost] = [Math.min(...x), Math.max(...x)];
    // Handles of heights sit on the outermost face on the left, those of finishes on the right.
    const first = faces.find((f) => f.tier === tier && f.points.some((p) => p[0] === leftmost));
    const wide = first?.points.map((p) => p[0]) ?? [leftmost];
    return { left: leftmost, right: rightmost, middle: (leftmost + Math.max(...wide)) / 2 };
  };
  // Each height that ends a tier in this section stands on the right, equal ones together.
  const heights = new Map<number, string[]>();
  result.tiers.forEach((t, i) => {
    if (t.is_cut || !boxOf(i)) return;
    const at = Math.round(t.top * 1000) / 1000;
    heights.set(at, [...(heights.get(at) ?? []), t.name]);
  });
  // Each text stands left of its line and keeps clear of what is there.
  let lane = right + 3;
  const stands = [...heights.entries()]
    .sort((a, b) => b[0] - a[0])
    .slice(0, MOST_HEIGHTS)
    .map(([at, names]) => {
      const text = `${names.length > 1 ? "= " : ""}${shown(at, unit, 1)}`;
      lane += Math.max(25, text.length * DIGIT_PX + 5);
      return { at, names, text, x: lane, y: bed - at * k };
    });
  const highest = stands[0];
  const handles = result.tiers.flatMap((t, i) => {
    const box = boxOf(i);
    return box ? t.handles.map((h) => ({ tier: t, handle: h, box, index: i })) : [];
  });
  const seen = new Set<string>();
  return (
    // biome-ignore lint/a11y/useSemanticElements: a drawing that holds sliders is a group; SVG has no fieldset
    <svg width={extent.width} height={extent.height} className="block" role="group" aria-label="Section A–A">
      <Hatches id={id} {...(colours ? { colours } : {})} />
      <g stroke="var(--line)" strokeWidth="1" opacity="0.8">
        {Array.from({ length: lines }, (_, i) => {
          const y = bed - (i + 1) * each * result.layer * k;
          return <path key={y} d={`M${left - 30} ${y}H${right + 30}`} />;
        })}
      </g>
      {faces.map((f, i) => (
        <polygon
          // biome-ignore lint/suspicious/noArrayIndexKey: faces have no other name
          key={i}
          points={f.points.map((p) => p.join(",")).join(" ")}
          fill={f.isCut ? "var(--tile)" : hatch(result.tiers[f.tier])}
          stroke="var(--ink)"
          strokeWidth={f.isCut ? 0.8 : 1.2}
          strokeLinejoin="round"
          data-cut={result.tiers[f.tier]?.key}
        />
      ))}
      <path d={`M${left - 40} ${bed}H${right + 40}`} stroke="var(--ink)" strokeWidth="1.8" />
      <path
        d={`M${cx} ${bed - top * k - 8}V${bed + 8}`}
        stroke="var(--soft)"
        strokeDasharray="12 3 2 3"
        strokeWidth="0.9"
      />
      {stands.map(({ at, names, text, x, y }, i) => {
        if (x > extent.width - 4) return null;
        return (
          <g key={at} data-height={at}>
            <title>{names.join(", ")}</title>
            <Dimension
              from={[x, bed]}
              to={[x, y]}
              at={[
                [right + 2, bed],
                [right + 2, y],
              ]}
              text={text}
              isLive={i === 0}
            />
          </g>
        );
      })}
      {highest && !isDragging && (
        <text
          x={Math.min(extent.width - 6, right + 66)}
          y={highest.y - (over(bed - highest.y) ? over(bed - highest.y) + 4 : 7)}
          textAnchor="end"
          fontSize="11.5"
          fontWeight="600"
          className="text-glaze"
        >
          {Math.round(highest.at / result.layer)} layers
        </text>
      )}
      {handles.map(({ tier, handle, box, index }) => {
        const name = `${handle.own ?? ""}${handle.name}`;
        // Several tiers may be moved by one measure: one handle is enough.
        if (seen.has(name)) return null;
        seen.add(name);
        const isHeight = handle.moves === "top" || handle.moves === "bottom";
        const x = isHeight ? Math.min(box.middle, box.left + 60) : box.right;
        return (
          <Handle key={`${index}-${name}`} bench={bench} tier={tier} handle={handle} x={x} bed={bed} k={k} />
        );
      })}
    </svg>
  );
}

/** The edit that a handle makes. */
function editOf(handle: HandleView, mm: number): Edit[] {
  const value = `${Math.round(mm * 1e6) / 1e6} mm`;
  return handle.own === null
    ? [{ kind: "set-measure", name: handle.name, value }]
    : [{ kind: "set-tier-length", id: handle.own, name: handle.name, value }];
}

/** A height to be dragged or moved by arrow keys: it snaps to printed layers and to the other heights, and to nothing with
 * Alt held. A finish is dragged sideways at its tip, and down at its foot. */
function Handle(p: { bench: Bench; tier: TierView; handle: HandleView; x: number; bed: number; k: number }) {
  const { bench, tier, handle, k } = p;
  const drag = useRef<{ x: number; y: number; value: number; last: number } | null>(null);
  const [live, setLive] = useState<number | null>(null);
  const layer = bench.result.layer;
  const unit = bench.design.document.unit;
  const measure = handle.own === null ? bench.result.measures.find((m) => m.name === handle.name) : undefined;
  const isFinish = handle.moves === "inset" || handle.moves === "depth";
  const at = handle.moves === "bottom" ? tier.bottom : tier.top;
  const lies =
    handle.moves === "inset"
      ? (tier.finish?.[0] ?? 0)
      : handle.moves === "depth"
        ? (tier.finish?.[1] ?? 0)
        : handle.is_down
          ? handle.base - at
          : at - handle.base;
  // Heights lie on the grid; what was typed is told to a thousandth.
  const value = Math.round(lies * 1000) / 1000;
  const [min, max] = [measure?.min ?? 0, measure?.max ?? 300];
  const bounded = (mm: number) => Math.min(max, Math.max(min, mm));
  const name = measure
    ? `${measure.group} ${measure.label.toLowerCase()}`
    : `${tier.name} ${handle.name.replace("-", " ")}`;
  // A square edge has no finish to drag; it is given one in the measures.
  const isHidden = isFinish && tier.finish === null;

  const release = () => {
    drag.current = null;
    setLive(null);
    useInterface.setState({ isDragging: false });
  };

  // A drag that ends outside the window ends all the same.
  useEffect(() => () => bench.settle(), [bench.settle]);

  if (isHidden) return null;
  const moved = (e: { clientX: number; clientY: number; altKey: boolean }) => {
    const d = drag.current;
    if (!d) return null;
    const up = (d.y - e.clientY) / k;
    if (handle.moves === "inset") return bounded(Math.round((d.value - (e.clientX - d.x) / k) * 20) / 20);
    if (handle.moves === "depth") return bounded(Math.round((d.value - up) * 10) / 10);
    const height = handle.is_down ? handle.base - d.value + up : handle.base + d.value + up;
    const others = bench.result.tiers.flatMap((t) => (t === tier ? [] : [t.top, t.bottom]));
    const near = others.find((o) => Math.abs(o - height) * k < 5);
    const to = e.altKey ? Math.round(height * 100) / 100 : (near ?? snapped(height, layer));
    return bounded(handle.is_down ? handle.base - to : to - handle.base);
  };
  const y = p.bed - at * k + (handle.moves === "depth" ? value * k : 0);
  const now = live ?? value;
  const words = isFinish
    ? `${withUnit(now, unit, 2)} ${handle.moves === "inset" ? "in" : "down"}`
    : `${withUnit(now, unit, 1)} · ${Math.round((handle.is_down ? handle.base - now : handle.base + now) / layer)} layers`;
  return (
    <g
      role="slider"
      tabIndex={0}
      aria-label={name}
      aria-orientation={handle.moves === "inset" ? "horizontal" : "vertical"}
      aria-valuemin={min}
      aria-valuemax={max}
      aria-valuenow={now}
      aria-valuetext={withUnit(now, unit)}
      data-handle={handle.name}
      transform={`translate(${p.x} ${y})`}
      className={`${handle.moves === "inset" ? "cursor-ew-resize" : "cursor-ns-resize"} touch-none outline-none [&:focus-visible_.grip]:stroke-[3px]`}
      onPointerDown={(e) => {
        e.currentTarget.setPointerCapture(e.pointerId);
        drag.current = { x: e.clientX, y: e.clientY, value, last: value };
        useInterface.setState({ isDragging: true });
      }}
      onPointerMove={(e) => {
        const mm = moved(e);
        const d = drag.current;
        if (mm === null || !d || mm === d.last) return;
        d.last = mm;
        setLive(mm);
        bench.preview(editOf(handle, mm));
      }}
      onPointerUp={() => {
        const d = drag.current;
        release();
        if (d && d.last !== d.value) bench.change(editOf(handle, d.last));
      }}
      onPointerCancel={() => {
        release();
        bench.settle();
      }}
      onKeyDown={(e) => {
        const steps = stepsOf(e);
        if (steps === 0) return;
        e.preventDefault();
        const step = isFinish ? 0.1 : layer;
        const way = handle.is_down ? -steps : steps;
        bench.change(editOf(handle, bounded(stepped(value, step, way))));
      }}
    >
      <rect x="-15" y="-12" width="30" height="22" fill="transparent" stroke="none" />
      {isFinish ? (
        <path
          className="grip"
          d="M0 -5.5L5.5 0L0 5.5L-5.5 0Z"
          fill="var(--tile)"
          stroke="var(--glaze)"
          strokeWidth="1.8"
        />
      ) : (
        <>
          <rect
            className="grip"
            x="-11"
            y="-5.5"
            width="22"
            height="10"
            rx="3"
            fill="var(--glaze)"
            stroke="var(--tile)"
            strokeWidth="1.5"
          />
          <path d="M-5 -1.6H5M-5 1.4H5" stroke="var(--on-glaze)" strokeWidth="1.2" pointerEvents="none" />
        </>
      )}
      {live !== null && (
        <text
          y="-12"
          textAnchor="middle"
          fontSize="12"
          fontWeight="700"
          className="text-glaze"
          stroke="var(--tile)"
          strokeWidth="4"
          paintOrder="stroke"
        >
          {words}
        </text>
      )}
    </g>
  );
}
