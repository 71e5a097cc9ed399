import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { Fragment, useEffect, useState } from "react";
import type { Bench } from "../../api/bench";
import { api, type PrintWish } from "../../api/client";
import type { BedLayerView } from "../../api/generated/BedLayerView";
import type { LinesView } from "../../api/generated/LinesView";
import type { PrintView } from "../../api/generated/PrintView";
import type { Unit } from "../../api/generated/Unit";
import { Button } from "../../ui/button";
import { withUnit } from "../../ui/length";
import { Track } from "../../ui/track";
import { type Box, type Extent, useExtent } from "../views/frame";
import { rgb } from "../views/look";
import { clock } from "./time";

/** Our own look of each kind of line: tone tells them apart, colour helps; a mark along the middle tells those of equal tone. */
const KINDS: Record<LinesView["kind"], { words: string; colour: string; mark?: string }> = {
  outer: { words: "outer wall", colour: "var(--ink)" },
  inner: { words: "wall", colour: "var(--glaze)" },
  thin: { words: "thin place", colour: "var(--terracotta)", mark: "0.6 0.6" },
  solid: { words: "solid", colour: "var(--stamp)" },
  infill: { words: "infill", colour: "var(--soft)" },
  brim: { words: "brim", colour: "var(--edge)", mark: "2 1" },
  skirt: { words: "skirt", colour: "var(--edge)" },
};

const PLAY_MS = 90;

/** The layers of a design one by one. */
export function Layers(p: { bench: Bench; print: PrintView; wish: PrintWish }) {
  const { bench, print, wish } = p;
  const { design } = bench;
  const [w, h] = design.result.solid?.reach ?? [100, 100];
  return (
    <LayerSlider
      print={print}
      unit={design.document.unit}
      // Room for a skirt.
      box={{ x: -w / 2 - 5, y: -h / 2 - 5, width: w + 10, height: h + 10 }}
      query={(n) => ({
        queryKey: ["layer", design.id, design.version, design.result.solid?.key, wish, n],
        queryFn: async ({ signal }) => {
          const { lines, layer } = await api.layer(design.id, n, wish, signal);
          return { layer, groups: [{ lines, poses: [{ x: 0, y: 0, degrees: 0 }] }] };
        },
      })}
    />
  );
}

/** What is seen of a layer. */
type Seen = Pick<BedLayerView, "layer" | "groups">;

/** How a layer is asked for. */
type Ask = (layer: number) => {
  queryKey: readonly unknown[];
  queryFn: (about: { signal: AbortSignal }) => Promise<Seen>;
};

/** Layers one by one: a slider, keys and play. The box is what is shown, mm, y down. */
export function LayerSlider(p: { print: PrintView; unit: Unit; box: Box; isBed?: boolean; query: Ask }) {
  const { print, unit } = p;
  const count = print.tops.length;
  const [chosen, setChosen] = useState<number | null>(null);
  const [isPlaying, setPlaying] = useState(false);
  const [byFilament, setByFilament] = useState(false);
  const [element, setElement] = useState<HTMLDivElement | null>(null);
  const extent = useExtent(element);
  const n = Math.min(Math.max(1, chosen ?? count), count);
  const { data: layer } = useQuery({
    ...p.query(n),
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    retry: false,
  });
  useEffect(() => {
    if (!isPlaying) return;
    const timer = setInterval(() => {
      setChosen((at) => ((at ?? count) >= count ? 1 : (at ?? 0) + 1));
    }, PLAY_MS);
    return () => clearInterval(timer);
  }, [isPlaying, count]);
  const here = [...print.stops, ...print.pauses].filter((s) => s.layer === n);
  return (
    <div className="absolute inset-0 flex flex-col">
      <div ref={setElement} className="relative min-h-0 flex-1">
        {layer && extent.width > 0 && (
          <LayerPlan
            layer={layer}
            box={p.box}
            isBed={p.isBed ?? false}
            extent={extent}
            byFilament={byFilament}
          />
        )}
      </div>
      <div className="grid gap-1.5 border-t border-line px-3 pt-2 pb-3">
        <div className="flex items-baseline gap-3 text-sm" data-testid="layer-words">
          <b className="font-semibold">
            Layer {n} of {count}
          </b>
          <span className="text-soft">{withUnit(print.tops[n - 1] ?? 0, unit, 2)} high</span>
          <span className="text-soft">after {clock(print.untils[n - 1] ?? 0)}</span>
          {here.map((s) => (
            <span key={s.what} className="font-semibold text-terracotta">
              {s.what} first
            </span>
          ))}
          <span className="ml-auto flex flex-wrap justify-end gap-x-3 text-xs text-soft">
            {kindsOf(layer).map((kind) => (
              <span key={kind} className="flex items-center gap-1">
                <svg width="16" height="6" aria-hidden="true">
                  <path d="M0 3H16" stroke={KINDS[kind].colour} strokeWidth="5" />
                  {KINDS[kind].mark && (
                    <path d="M0 3H16" stroke="var(--tile)" strokeWidth="1.4" strokeDasharray="3 3" />
                  )}
                </svg>
                {KINDS[kind].words}
              </span>
            ))}
            {kindsOf(layer).includes("outer") && (
              <span className="flex items-center gap-1">
                <svg width="8" height="8" aria-hidden="true">
                  <circle cx="4" cy="4" r="3" fill="var(--terracotta)" />
                </svg>
                seam
              </span>
            )}
          </span>
        </div>
        <div className="flex items-center gap-3">
          <Button className="text-xs" aria-pressed={isPlaying} onClick={() => setPlaying((on) => !on)}>
            {isPlaying ? "Stop" : "Play"}
          </Button>
          <div className="relative flex-1">
            <Track
              label="Layer"
              value={n}
              min={1}
              max={count}
              onMove={(v) => {
                setPlaying(false);
                setChosen(v);
              }}
              onSettle={setChosen}
            />
          </div>
          <Button
            className="text-xs"
            aria-pressed={byFilament}
            onClick={() => setByFilament((on) => !on)}
            title="Kinds of lines, or the colours of filaments"
          >
            {byFilament ? "Kinds" : "Filaments"}
          </Button>
        </div>
      </div>
    </div>
  );
}

const ORDER = Object.keys(KINDS) as LinesView["kind"][];

function kindsOf(layer: Seen | undefined): LinesView["kind"][] {
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
