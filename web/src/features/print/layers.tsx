import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/react-query";
import clsx from "clsx";
import { type ReactNode, useEffect, useMemo, useState } from "react";
import { useLocation } from "wouter";
import type { Bench } from "../../api/bench";
import { api } from "../../api/client";
import type { PrintView } from "../../api/generated/PrintView";
import type { PrintWish } from "../../api/generated/PrintWish";
import type { Unit } from "../../api/generated/Unit";
import { SOLIDS } from "../../parts";
import { useInterface } from "../../state/interface";
import { Button } from "../../ui/button";
import { withUnit } from "../../ui/length";
import { PartOf, SettingUp } from "../../ui/part";
import { Track } from "../../ui/track";
import { type Box, useExtent } from "../views/frame";
import { SolidGuard } from "../views/solid-guard";
import { KINDS, kindsOf, LayerPlan, type SeenLayer } from "./layer-plan";
import { type Look, looksOf } from "./looks";
import { clock } from "./time";
import { useFollowing } from "./use-following";

const NONE: readonly Look[] = [];

const PLAY_MS = 90;

/** The layers of a design one by one. */
export function Layers(p: { bench: Bench; print: PrintView; wish: PrintWish; isBefore: boolean }) {
  const { bench, print, wish } = p;
  const { design } = bench;
  const [w, h] = design.result.solid?.reach ?? [100, 100];
  const [, go] = useLocation();
  const pointFinding = useInterface((s) => s.pointFinding);
  const looks = useMemo(
    () => looksOf(design.result.findings, print.tops),
    [design.result.findings, print.tops],
  );
  return (
    <LayerSlider
      print={print}
      isBefore={p.isBefore}
      unit={design.document.unit}
      looks={looks}
      onCheck={(look) => {
        pointFinding(look.finding, look.place);
        go(`/design/${design.id}/check`);
      }}
      solid={(layer, byFilament) => (
        <PartOf part={SOLIDS.layer} given={{ bench, layer, byFilament }} coming={<SettingUp />} />
      )}
      // Room for a skirt.
      box={{ x: -w / 2 - 5, y: -h / 2 - 5, width: w + 10, height: h + 10 }}
      query={(n) => ({
        queryKey: ["layer", design.id, wish, print.key, n],
        queryFn: async ({ signal }) => {
          const { lines, layer, top } = await api.layer(design.id, n, wish, print.key, signal);
          return { layer, top, groups: [{ lines, poses: [{ x: 0, y: 0, degrees: 0 }] }], built: [] };
        },
      })}
    />
  );
}

/** How a layer is asked for. */
type Ask = (layer: number) => {
  queryKey: readonly unknown[];
  queryFn: (about: { signal: AbortSignal }) => Promise<SeenLayer>;
};

/** Layers one by one: a slider, keys and play. The box is what is shown, mm, y down. */
export function LayerSlider(p: {
  print: PrintView;
  /** Whether the print is the one before a change: its layers may not be there any more. */
  isBefore?: boolean;
  unit: Unit;
  box: Box;
  isBed?: boolean;
  query: Ask;
  /** Places that Check found, to be stepped through, and the way back to them. */
  looks?: readonly Look[];
  onCheck?: (look: Look) => void;
  /** The solid as far as a layer, beside the plan. */
  solid: (layer: SeenLayer, byFilament: boolean) => ReactNode;
}) {
  const { print, unit } = p;
  const count = print.tops.length;
  const [chosen, setChosen] = useState<number | null>(null);
  const [isPlaying, setPlaying] = useState(false);
  const [byFilament, setByFilament] = useState(false);
  const [isSolid, setSolid] = useState(true);
  const [element, setElement] = useState<HTMLDivElement | null>(null);
  const extent = useExtent(element);
  const n = Math.min(Math.max(1, chosen ?? count), count);
  const { data: layer } = useQuery({
    ...p.query(n),
    enabled: !p.isBefore,
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    retry: false,
  });
  // The slider moves on to one of these.
  const cache = useQueryClient();
  const { query } = p;
  // biome-ignore lint/correctness/useExhaustiveDependencies: the layer shown is the trigger
  useEffect(() => {
    if (!layer || p.isBefore) return;
    for (const near of [n + 1, n - 1, n + 2, n - 2])
      if (near >= 1 && near <= count) void cache.prefetchQuery({ ...query(near), staleTime: Infinity });
  }, [layer?.layer]);
  useEffect(() => {
    if (!isPlaying) return;
    const timer = setInterval(() => {
      setChosen((at) => ((at ?? count) >= count ? 1 : (at ?? 0) + 1));
    }, PLAY_MS);
    return () => clearInterval(timer);
  }, [isPlaying, count]);
  const looks = p.looks ?? NONE;
  const [look, setLook] = useState<number | null>(null);
  const shown = look === null ? undefined : looks[look];
  const stepLook = (by: number) => {
    const next = look === null ? (by > 0 ? 0 : looks.length - 1) : (look + by + looks.length) % looks.length;
    setPlaying(false);
    setLook(next);
    setChosen(looks[next]?.layer ?? null);
  };
  // The plan moves with the slider; the solid costs far more to draw without a graphics card.
  const stood = useFollowing(layer);
  const here = [...print.stops, ...print.pauses].filter((s) => s.layer === n);
  return (
    <div className="absolute inset-0 flex flex-col">
      <div
        className={clsx(
          "grid min-h-0 flex-1",
          isSolid &&
            "grid-cols-2 divide-line max-sm:grid-cols-1 max-sm:grid-rows-2 max-sm:divide-y sm:divide-x",
        )}
      >
        <div ref={setElement} className="relative min-h-0 min-w-0">
          {layer && extent.width > 0 && (
            <LayerPlan
              layer={layer}
              box={p.box}
              isBed={p.isBed ?? false}
              extent={extent}
              byFilament={byFilament}
              mark={shown?.layer === n ? shown.path : null}
            />
          )}
        </div>
        {isSolid && (
          <div className="relative min-h-0 min-w-0">
            <div className="absolute inset-0">
              <SolidGuard>{stood && p.solid(stood, byFilament)}</SolidGuard>
            </div>
          </div>
        )}
      </div>
      <div className="grid gap-1.5 border-t border-line px-3 pt-2 pb-3">
        {looks.length > 0 && (
          <div className="flex items-center gap-2 text-sm" data-testid="layer-looks">
            <Button className="text-xs" onClick={() => stepLook(-1)} aria-label="Place before">
              ‹
            </Button>
            <Button className="text-xs" onClick={() => stepLook(1)} aria-label="Next place">
              ›
            </Button>
            <span className="min-w-0 truncate text-terracotta">
              {shown
                ? `${(look ?? 0) + 1} of ${looks.length}: ${shown.what}`
                : looks.length === 1
                  ? "1 place to look at"
                  : `${looks.length} places to look at`}
            </span>
            {shown && (
              <Button className="flex-none text-xs" onClick={() => p.onCheck?.(shown)}>
                See it at Check
              </Button>
            )}
          </div>
        )}
        <div
          className="flex items-baseline gap-3 text-sm narrow:flex-wrap narrow:gap-y-0.5"
          data-testid="layer-words"
        >
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
              <span key={kind} className="flex items-center gap-1" data-kind={kind}>
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
          <Button className="text-xs" aria-pressed={isSolid} onClick={() => setSolid((on) => !on)}>
            Solid
          </Button>
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
