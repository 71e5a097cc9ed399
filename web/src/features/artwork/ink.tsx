import { useState } from "react";
import type { Bench } from "../../api/bench";
import type { ColourSettings } from "../../api/generated/ColourSettings";
import type { Edit } from "../../api/generated/Edit";
import type { Ink } from "../../api/generated/Ink";
import { Button } from "../../ui/button";
import { MeasureField } from "../../ui/measure-field";
import { Group } from "../../ui/panel";
import { Track } from "../../ui/track";
import { css, sameColour } from "./frame";
import { Toggle } from "./slider";

const KINDS: [Ink, string][] = [
  ["light-dark", "Light and dark"],
  ["colours", "Colours"],
  ["alpha", "Transparency"],
  ["pen", "Pen lines"],
  ["none", "None: trace by hand"],
];

/** What counts as ink. */
export function InkGroup({ bench, onPick }: { bench: Bench; onPick: () => void }) {
  const t = bench.design.document.trace;
  const picture = bench.result.picture;
  const cuts = t.ink === "light-dark" || t.ink === "pen" || t.ink === "alpha";
  return (
    <Group
      title="Ink"
      note={cuts && t.threshold === null && bench.result.trace?.cut_is_automatic ? "automatic" : undefined}
    >
      <div className="grid grid-cols-2 gap-1 pb-2">
        {KINDS.map(([ink, words]) => (
          <Button
            key={ink}
            aria-pressed={t.ink === ink}
            why={ink === "alpha" && picture?.has_alpha === false && "The picture has no transparent places"}
            className={`px-1 text-xs ${ink === "none" ? "col-span-2" : ""} ${t.ink === ink ? "border-glaze bg-sunk text-glaze" : ""}`}
            onClick={() => bench.change([{ kind: "set-ink", ink }])}
          >
            {words}
          </Button>
        ))}
      </div>
      {picture && picture.unpainted > 0 && t.ink !== "pen" && (
        <p className="pb-2 text-xs text-soft">
          {picture.unpainted} lines of this SVG have no paint. As pen lines they get a width of their own.
        </p>
      )}
      {cuts && !(picture?.is_drawing && t.ink === "pen") && <Threshold bench={bench} />}
      {cuts && (
        <Toggle
          label="Swap ink and ground"
          isOn={t.invert}
          onChange={(invert) => bench.change([{ kind: "set-invert", invert }])}
        />
      )}
      {t.ink === "colours" && <Colours bench={bench} onPick={onPick} />}
      {t.ink === "pen" && <PenWidth bench={bench} />}
      {t.ink === "none" && (
        <p className="text-xs text-soft">
          Nothing of the picture is followed. It lies under the plan at Outline: draw over it with the pen or
          freehand, or add shapes and text.
        </p>
      )}
    </Group>
  );
}

/** The cut between ink and ground, with the picture's greys above it: moves live, saves when let go. */
function Threshold({ bench }: { bench: Bench }) {
  const t = bench.design.document.trace;
  const cut = bench.result.trace?.cut ?? t.threshold ?? 128;
  const value = Math.min(254, Math.max(1, Math.round(t.threshold ?? cut)));
  const [live, setLive] = useState<number | null>(null);
  const edit = (threshold: number): Edit[] => [{ kind: "set-threshold", threshold }];
  const words = t.ink === "alpha" ? ["clear", "opaque"] : ["dark", "light"];
  return (
    <div>
      <div className="flex items-center gap-2 pb-1 text-sm">
        <span className="flex-1">Threshold</span>
        <output className="text-sm font-semibold">{live ?? value}</output>
        <Button
          className="text-xs"
          why={t.threshold === null && "It is automatic"}
          onClick={() => bench.change([{ kind: "set-threshold", threshold: null }])}
        >
          Automatic
        </Button>
      </div>
      <Histogram counts={bench.result.trace?.histogram ?? []} cut={live ?? value} />
      <Track
        label="Threshold"
        value={live ?? value}
        min={1}
        max={254}
        onMove={(v) => {
          setLive(v);
          bench.preview(edit(v));
        }}
        onSettle={(v) => {
          setLive(null);
          if (v !== value || t.threshold === null) bench.change(edit(v));
        }}
      />
      <div className="flex justify-between text-xs text-soft" aria-hidden="true">
        <span>{words[0]}</span>
        <span>{words[1]}</span>
      </div>
    </div>
  );
}

/** How many pixels have which grey, on a logarithmic scale: paper and ink differ by a lot. */
function Histogram({ counts, cut }: { counts: number[]; cut: number }) {
  if (counts.length === 0) return null;
  const heights = counts.map((n) => Math.log1p(n));
  const most = Math.max(...heights, 1);
  const d = heights.map((h, i) => `M${i + 0.5} 40V${40 - (38 * h) / most}`).join("");
  return (
    <svg
      viewBox="0 0 256 40"
      preserveAspectRatio="none"
      className="h-9 w-full border-b border-edge bg-sunk"
      role="img"
      aria-label="Histogram of the picture"
    >
      <path d={d} stroke="var(--soft)" strokeWidth={1} />
      <path d={`M${cut} 0V40`} stroke="var(--terracotta)" strokeWidth={2} />
    </svg>
  );
}

function Colours({ bench, onPick }: { bench: Bench; onPick: () => void }) {
  const c = bench.design.document.trace.colours;
  // A colour that was made one with another has no pixels of its own any more.
  const palette = (bench.result.trace?.palette ?? []).filter((s) => s.share > 0);
  const [chosen, setChosen] = useState<number[]>([]);
  const set = (now: Partial<ColourSettings>) => {
    setChosen([]);
    bench.change([{ kind: "set-colours", colours: { ...c, ...now } }]);
  };
  const [a, b] = chosen.map((k) => palette[k]?.colour);
  const isPlain = c.count === null && c.picked.length + c.merged.length === 0 && !c.ground && !c.with_ground;
  return (
    <div>
      <div className="flex items-center gap-1.5 pb-1.5 text-sm">
        <span className="flex-1">
          {palette.length} colours{c.count === null ? " found" : ""}, ground included
        </span>
        <Button
          className="size-7 px-0"
          aria-label="One colour fewer"
          why={(c.count ?? palette.length) <= 2 && "Two at least"}
          onClick={() => set({ count: (c.count ?? palette.length) - 1 })}
        >
          −
        </Button>
        <Button
          className="size-7 px-0"
          aria-label="One colour more"
          why={(c.count ?? palette.length) >= 12 && "Twelve at most"}
          onClick={() => set({ count: (c.count ?? palette.length) + 1 })}
        >
          +
        </Button>
      </div>
      <ul className="grid grid-cols-2 gap-1" aria-label="Colours of the picture">
        {palette.map((s, k) => (
          <li key={css(s.colour)}>
            <button
              type="button"
              aria-pressed={chosen.includes(k)}
              onClick={() =>
                setChosen((now) => (now.includes(k) ? now.filter((n) => n !== k) : [...now, k].slice(-2)))
              }
              className="flex w-full items-center gap-2 rounded-tile border border-line p-1 text-left text-xs aria-pressed:border-glaze aria-pressed:bg-sunk"
            >
              <span
                className="size-6 flex-none rounded-[3px] border border-line"
                style={{ background: css(s.colour) }}
              />
              <span className="min-w-0 leading-tight">
                {s.is_ground ? <b className="font-semibold text-terracotta">ground</b> : `colour ${k + 1}`}
                <br />
                <span className="text-soft">{s.share < 0.01 ? "under 1" : Math.round(s.share * 100)} %</span>
              </span>
            </button>
          </li>
        ))}
      </ul>
      <div className="grid grid-cols-2 gap-1 pt-1.5">
        <Button
          className="px-1 text-xs"
          why={(!a || !b) && "Choose two colours first"}
          onClick={() => a && b && set({ merged: [...c.merged, [a, b]] })}
        >
          Make them one
        </Button>
        <Button
          className="px-1 text-xs"
          why={(chosen.length !== 1 || !a) && "Choose one colour first"}
          onClick={() => a && set({ ground: a, with_ground: false })}
        >
          Is the ground
        </Button>
        <Button className="px-1 text-xs" onClick={onPick}>
          Point at one…
        </Button>
        <Button
          className="px-1 text-xs"
          why={isPlain && "They are as they were found"}
          onClick={() => set({ count: null, picked: [], merged: [], ground: null, with_ground: false })}
        >
          As found
        </Button>
      </div>
      <Toggle
        label="Keep the ground too"
        isOn={c.with_ground}
        onChange={(with_ground) => set({ with_ground })}
      />
    </div>
  );
}

/** Adds a colour that was pointed at, unless it is there. */
export function picking(c: ColourSettings, colour: [number, number, number]): Edit[] {
  if (c.picked.some((p) => sameColour(p, colour))) return [];
  return [{ kind: "set-colours", colours: { ...c, picked: [...c.picked, colour].slice(-12) } }];
}

function PenWidth({ bench }: { bench: Bench }) {
  const d = bench.design.document;
  return (
    <div>
      <Toggle
        label="As wide as drawn"
        isOn={d.pen_width === null}
        onChange={(drawn) => bench.change([{ kind: "set-pen-width", value: drawn ? null : "2 mm" }])}
      />
      {d.pen_width !== null && (
        <MeasureField
          label="Width of the lines"
          meaning="All pen lines get this width; it stays when the size changes"
          value={d.pen_width}
          unit={d.unit}
          step={0.1}
          onCommit={(value) => bench.commit([{ kind: "set-pen-width", value }])}
        />
      )}
    </div>
  );
}
