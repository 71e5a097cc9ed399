import { type ReactNode, useId, useState } from "react";
import type { Bench } from "../../api/bench";
import type { TierView } from "../../api/generated/TierView";
import { type Side, useInterface } from "../../state/interface";
import { heightOf, layersTo, shown } from "../../ui/length";
import { Dimension, Hatches, over } from "./drawing";
import { useInFilaments } from "./filament-switch";
import { type Extent, useExtent } from "./frame";
import { familyOf } from "./look";
import { nameOf } from "./name-press";
import { Handle } from "./section-handle";
import { type Box, placesOf } from "./section-places";

interface Props {
  bench: Bench;
  side: Side;
  /** Pixels to a millimetre: that of the plan above. */
  scale: number;
  /** It is looked at only: nothing is moved in it. */
  isReading?: boolean;
  /** What is drawn over it; `x` and `y` turn millimetres along the line and above the bed into pixels. */
  marks?: ((x: (mm: number) => number, y: (mm: number) => number) => ReactNode) | undefined;
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

/** The drawing itself, once the size of its panel is known. */
export function SectionDrawing(p: Props & { extent: Extent }) {
  const { bench, side, scale, extent } = p;
  const id = useId();
  const { result, design } = bench;
  const held = useInterface((s) => s.held);
  const unit = design.document.unit;
  const k = scale;
  // Heights may be stretched, widths stay those of the plan above.
  const stretch = useInterface((s) => s.stretch);
  const kz = scale * stretch;
  // Cuts come as the tool is printed.
  const flip = (side === "tool" ? 1 : -1) * (result.is_mirrored ? 1 : -1);
  const [cx, bed] = [extent.width / 2, extent.height - 30];
  const many = useInFilaments(result);
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
    points: c.corners.map(([x, z]) => [cx + flip * x * k, bed - z * kz]),
  }));
  const xs = faces.filter((f) => !f.isCut).flatMap((f) => f.points.map((p) => p[0]));
  const left = Math.min(...xs, cx);
  const right = Math.max(...xs, cx);
  const top = Math.max(
    0,
    ...result.section.filter((c) => !c.is_cut).flatMap((c) => c.corners.map((p) => p[1])),
  );
  // Layer lines only where they can be told apart.
  const each = [1, 5, 10, 25].find((n) => n * result.layer * kz >= 5) ?? 50;
  const lines = Math.floor(layersTo(top, result) / each);
  const boxOf = (tier: number): Box | null => {
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
  const stands: { at: number; names: string[]; text: string; x: number; y: number }[] = [];
  const highestFirst = [...heights.entries()].sort((a, b) => b[0] - a[0]);
  for (const [at, names] of highestFirst.slice(0, MOST_HEIGHTS)) {
    const text = `${names.length > 1 ? "= " : ""}${shown(at, unit, 1)}`;
    lane += Math.max(25, text.length * DIGIT_PX + 5);
    stands.push({ at, names, text, x: lane, y: bed - at * kz });
  }
  const highest = stands[0];
  const handles = result.tiers.flatMap((t, i) => {
    const box = boxOf(i);
    return box ? t.handles.map((handle) => ({ tier: t, handle, box })) : [];
  });
  return (
    // biome-ignore lint/a11y/useSemanticElements: a drawing that holds sliders is a group; SVG has no fieldset
    <svg width={extent.width} height={extent.height} className="block" role="group" aria-label="Section A–A">
      <Hatches id={id} {...(colours ? { colours } : {})} />
      <g stroke="var(--line)" strokeWidth="1" opacity="0.8">
        {Array.from({ length: lines }, (_, i) => {
          const y = bed - heightOf((i + 1) * each, result) * kz;
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
        >
          <title>{result.tiers[f.tier] && nameOf(result.tiers[f.tier] as TierView, unit)}</title>
        </polygon>
      ))}
      <path d={`M${left - 40} ${bed}H${right + 40}`} stroke="var(--ink)" strokeWidth="1.8" />
      <path
        d={`M${cx} ${bed - top * kz - 8}V${bed + 8}`}
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
      {highest && held === null && (
        <text
          x={Math.min(extent.width - 6, right + 66)}
          y={highest.y - (over(bed - highest.y) ? over(bed - highest.y) + 4 : 7)}
          textAnchor="end"
          fontSize="11.5"
          fontWeight="600"
          className="text-glaze"
        >
          {layersTo(highest.at, result)} layers
        </text>
      )}
      {stretch > 1 && (
        <text
          x="8"
          y={extent.height - 8}
          fontSize="11.5"
          fontWeight="600"
          className="text-glaze"
          data-stretch
        >
          heights {stretch} times as high as they are
        </text>
      )}
      {p.marks?.(
        (mm) => cx + flip * mm * k,
        (mm) => bed - mm * kz,
      )}
      {(p.isReading ? [] : placesOf(handles, bed, kz, held)).map((placed) => (
        <Handle
          key={`${placed.tier.key}-${placed.handle.own ?? ""}${placed.handle.name}`}
          bench={bench}
          placed={placed}
          k={k}
          kz={kz}
        />
      ))}
    </svg>
  );
}
