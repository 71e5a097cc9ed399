import { Fragment } from "react";
import type { BedLayerView } from "../../api/generated/BedLayerView";
import type { LinesView } from "../../api/generated/LinesView";
import type { Box, Extent } from "../views/frame";
import { rgb } from "../views/look";

/** Our own look of each kind of line: tone tells them apart, colour helps; a mark along the middle tells those of equal tone. */
export const KINDS: Record<LinesView["kind"], { words: string; colour: string; mark?: string }> = {
  outer: { words: "outer wall", colour: "var(--ink)" },
  inner: { words: "wall", colour: "var(--glaze)" },
  thin: { words: "thin place", colour: "var(--terracotta)", mark: "0.6 0.6" },
  solid: { words: "solid", colour: "var(--stamp)" },
  infill: { words: "infill", colour: "var(--soft)" },
  brim: { words: "brim", colour: "var(--edge)", mark: "2 1" },
  skirt: { words: "skirt", colour: "var(--edge)" },
};

/** What is seen of a layer. */
export type Seen = Pick<BedLayerView, "layer" | "groups">;

const ORDER = Object.keys(KINDS) as LinesView["kind"][];

export function kindsOf(layer: Seen | undefined): LinesView["kind"][] {
  return ORDER.filter((k) => layer?.groups.some((g) => g.lines.some((l) => l.kind === k)));
}

/** The lines of a layer, as wide as they are; `ahead` is what is still to be laid, faintly. */
export function LayerPlan(p: {
  layer: Seen;
  ahead?: Seen["groups"];
  box: Box;
  isBed: boolean;
  extent: Extent;
  byFilament: boolean;
  /** Outline of a place to look at. */
  mark?: string | null;
}) {
  const { layer, box, extent } = p;
  const k = Math.min((extent.width - 30) / box.width, (extent.height - 30) / box.height);
  const [x, y] = [
    extent.width / 2 - (box.x + box.width / 2) * k,
    extent.height / 2 - (box.y + box.height / 2) * k,
  ];
  return (
    <svg
      width={extent.width}
      height={extent.height}
      className="block"
      role="img"
      aria-label={`Layer ${layer.layer}`}
    >
      <g transform={`translate(${x} ${y}) scale(${k})`} fill="none" strokeLinejoin="round">
        {p.isBed && (
          <rect
            {...box}
            fill="var(--sunk)"
            stroke="var(--edge)"
            strokeWidth="1.5"
            vectorEffect="non-scaling-stroke"
          />
        )}
        {p.ahead && (
          <g opacity="0.22">
            <Groups groups={p.ahead} byFilament={p.byFilament} />
          </g>
        )}
        <Groups groups={layer.groups} byFilament={p.byFilament} />
        {p.mark && (
          <path
            d={p.mark}
            stroke="var(--terracotta)"
            strokeWidth="2.5"
            strokeDasharray="5 3"
            vectorEffect="non-scaling-stroke"
            data-mark
          />
        )}
      </g>
    </svg>
  );
}

/** Lines where they lie. */
function Groups({ groups, byFilament }: { groups: Seen["groups"]; byFilament: boolean }) {
  return groups.map((g, n) => (
    // biome-ignore lint/suspicious/noArrayIndexKey: groups have no names
    <Fragment key={n}>
      {g.poses.map((at) => (
        <g
          key={`${at.x} ${at.y} ${at.degrees}`}
          transform={`translate(${at.x} ${-at.y}) rotate(${-at.degrees})`}
        >
          <Strokes lines={g.lines} byFilament={byFilament} />
        </g>
      ))}
    </Fragment>
  ));
}

/** Where closed lines begin and end: a dot each. */
function seamsOf(path: string): string {
  return path
    .split("M")
    .filter((d) => d.endsWith("Z"))
    .map((d) => `M${d.slice(0, d.indexOf("L"))}h0`)
    .join("");
}

/** Lines that are laid together. */
function Strokes({ lines, byFilament }: { lines: readonly LinesView[]; byFilament: boolean }) {
  return lines.map((l) => {
    const look = KINDS[l.kind];
    return (
      <g key={`${l.kind} ${l.width} ${l.colour}`} data-kind={l.kind}>
        <path
          d={l.path}
          stroke={byFilament ? rgb(l.colour) : look.colour}
          strokeWidth={l.width * 0.92}
          strokeOpacity={l.kind === "infill" ? 0.75 : 1}
        />
        {look.mark && (
          <path d={l.path} stroke="var(--tile)" strokeWidth={l.width * 0.25} strokeDasharray={look.mark} />
        )}
        {l.kind === "outer" && (
          <path
            d={seamsOf(l.path)}
            stroke="var(--terracotta)"
            strokeWidth={Math.max(1, l.width * 2)}
            strokeLinecap="round"
            data-seams
          />
        )}
      </g>
    );
  });
}
