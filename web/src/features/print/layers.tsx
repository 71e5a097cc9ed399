import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import type { Bench } from "../../api/bench";
import { api, type PrintWish } from "../../api/client";
import type { LayerView } from "../../api/generated/LayerView";
import type { LinesView } from "../../api/generated/LinesView";
import type { PrintView } from "../../api/generated/PrintView";
import { Button } from "../../ui/button";
import { withUnit } from "../../ui/length";
import { Track } from "../../ui/track";
import { type Extent, useExtent } from "../views/frame";
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

/** The layers one by one: a slider, keys and play. */
export function Layers(p: { bench: Bench; print: PrintView; wish: PrintWish }) {
  const { bench, print, wish } = p;
  const count = print.tops.length;
  const [chosen, setChosen] = useState<number | null>(null);
  const [isPlaying, setPlaying] = useState(false);
  const [byFilament, setByFilament] = useState(false);
  const [element, setElement] = useState<HTMLDivElement | null>(null);
  const extent = useExtent(element);
  const unit = bench.design.document.unit;
  const n = Math.min(Math.max(1, chosen ?? count), count);
  const { data: layer } = useQuery({
    queryKey: ["layer", bench.design.id, bench.design.version, bench.design.result.solid?.key, wish, n],
    queryFn: ({ signal }) => api.layer(bench.design.id, n, wish, signal),
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
          <LayerPlan bench={bench} layer={layer} extent={extent} byFilament={byFilament} />
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

function kindsOf(layer: LayerView | undefined): LinesView["kind"][] {
  return ORDER.filter((k) => layer?.lines.some((l) => l.kind === k));
}

/** The lines of a layer, as wide as they are. */
function LayerPlan(p: { bench: Bench; layer: LayerView; extent: Extent; byFilament: boolean }) {
  const { layer, extent } = p;
  const [w, h] = p.bench.design.result.solid?.reach ?? [100, 100];
  // Room for a skirt.
  const k = Math.min((extent.width - 30) / (w + 10), (extent.height - 30) / (h + 10));
  return (
    <svg
      width={extent.width}
      height={extent.height}
      className="block"
      role="img"
      aria-label={`Layer ${layer.layer}`}
    >
      <g
        transform={`translate(${extent.width / 2} ${extent.height / 2}) scale(${k})`}
        fill="none"
        strokeLinejoin="round"
      >
        {layer.lines.map((l) => {
          const look = KINDS[l.kind];
          return (
            <g key={`${l.kind} ${l.width} ${l.colour}`} data-kind={l.kind}>
              <path
                d={l.path}
                stroke={p.byFilament ? rgb(l.colour) : look.colour}
                strokeWidth={l.width * 0.92}
                strokeOpacity={l.kind === "infill" ? 0.75 : 1}
              />
              {look.mark && (
                <path
                  d={l.path}
                  stroke="var(--tile)"
                  strokeWidth={l.width * 0.25}
                  strokeDasharray={look.mark}
                />
              )}
            </g>
          );
        })}
      </g>
    </svg>
  );
}
