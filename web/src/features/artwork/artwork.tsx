import { Slider, Switch } from "radix-ui";
import { useEffect, useId, useState } from "react";
import type { Bench } from "../../api/bench";
import { contoursUrl, pictureUrl } from "../../api/client";
import type { Edit } from "../../api/generated/Edit";
import { Button } from "../../ui/button";
import { Card, Group, Panel } from "../../ui/panel";
import { ProblemNote } from "../../ui/problem-note";
import { SizeFields } from "../outline/size-fields";
import { useExtent } from "../views/frame";

/** The picture, and what of it counts as ink. The traced outline lies over it at all times. */
export function Artwork({ bench }: { bench: Bench }) {
  const { result, design } = bench;
  const [dim, setDim] = useState(45);
  const t = design.document.trace;
  const traced = result.trace;
  return (
    <div className="grid min-h-0 grid-cols-[minmax(0,1fr)_320px] gap-1.5">
      <Panel
        title="Picture"
        note={
          traced
            ? `${result.patches.length} patches · ${traced.nodes} nodes, over the picture`
            : "not traced yet"
        }
        tools={
          <span className="flex w-44 items-center gap-2 pr-2 text-xs text-soft">
            dimmed
            <Track label="Dim the picture" value={dim} min={0} max={100} onMove={setDim} onSettle={setDim} />
          </span>
        }
      >
        <Overlay bench={bench} dim={dim} />
      </Panel>
      <Card
        title="Artwork"
        foot={
          <a
            href={contoursUrl(design.id)}
            download
            className="flex justify-center rounded-tile border border-edge px-3 py-1 text-sm font-semibold hover:border-glaze hover:text-glaze"
          >
            Contours as SVG
          </a>
        }
      >
        {result.problem && <ProblemNote problem={result.problem} />}
        <Group title="Ink" note={traced?.cut_is_automatic ? "automatic" : undefined}>
          <Threshold bench={bench} />
          <Toggle
            label="Swap ink and ground"
            isOn={t.invert}
            onChange={(invert) => bench.change([{ kind: "set-invert", invert }])}
          />
          <div className="flex items-center gap-2 pt-2 text-sm">
            <span className="flex-1">Told by</span>
            {(
              [
                ["light-dark", "Light and dark"],
                ["alpha", "Transparency"],
              ] as const
            ).map(([ink, words]) => (
              <Button
                key={ink}
                aria-pressed={t.ink === ink}
                className={`text-xs ${t.ink === ink ? "border-glaze text-glaze" : ""}`}
                onClick={() => bench.change([{ kind: "set-ink", ink }])}
              >
                {words}
              </Button>
            ))}
          </div>
        </Group>
        <Group
          title="Tidy"
          note={traced && traced.specks > 0 ? `${traced.specks} specks left out` : undefined}
        >
          <Live
            bench={bench}
            label="Specks"
            unit="px²"
            value={t.min_area}
            min={0}
            max={400}
            step={1}
            edit={(min_area) => ({ kind: "set-min-area", min_area })}
          />
          <Live
            bench={bench}
            label="Deviation"
            unit="px"
            value={t.deviation}
            min={0}
            max={3}
            step={0.05}
            edit={(deviation) => ({ kind: "set-deviation", deviation })}
          />
        </Group>
        <SizeFields bench={bench} />
        <Maker bench={bench} />
      </Card>
    </div>
  );
}

/** The contours as crisp lines over the dimmed picture; white under dark, so that they are legible on any colour. */
function Overlay({ bench, dim }: { bench: Bench; dim: number }) {
  const [element, setElement] = useState<HTMLDivElement | null>(null);
  const extent = useExtent(element);
  const { result, design } = bench;
  const size = result.picture;
  const k = size ? Math.min((extent.width - 40) / size[0], (extent.height - 40) / size[1]) : 0;
  const bar = result.outline ? 10 / result.outline.mm_per_px : 0;
  return (
    <div ref={setElement} className="absolute inset-0 flex items-center justify-center bg-sunk">
      {size && k > 0 && (
        <div className="relative bg-white" style={{ width: size[0] * k, height: size[1] * k }}>
          <img
            src={pictureUrl(design.id)}
            alt={design.document.artwork.file_name}
            className="absolute inset-0 size-full"
            style={{ opacity: 1 - dim / 100 }}
          />
          <svg
            viewBox={`0 0 ${size[0]} ${size[1]}`}
            className="absolute inset-0 size-full overflow-visible"
            role="img"
            aria-label="Contours"
          >
            {[
              ["#ffffff", 3.6],
              ["#0f7c80", 1.8],
            ].map(([colour, width]) =>
              result.patches
                .filter((p) => p.is_ink)
                .map((p, i) => (
                  <path
                    // biome-ignore lint/suspicious/noArrayIndexKey: patches have no other name
                    key={`${colour}${i}`}
                    d={p.path}
                    fill={width === 1.8 ? "#0f7c80" : "none"}
                    fillOpacity={0.12}
                    fillRule="evenodd"
                    stroke={colour as string}
                    strokeWidth={width}
                    strokeLinejoin="round"
                    vectorEffect="non-scaling-stroke"
                    data-contour={width === 1.8 ? i : undefined}
                  />
                )),
            )}
          </svg>
        </div>
      )}
      {bar > 0 && k > 0 && (
        <div className="absolute bottom-2 left-3 flex items-center gap-2 text-xs text-soft">
          <span className="h-1 border border-soft" style={{ width: bar * k }} /> 10 mm
        </div>
      )}
    </div>
  );
}

/** The cut between ink and ground: moves live, saves when let go. */
function Threshold({ bench }: { bench: Bench }) {
  const t = bench.design.document.trace;
  const cut = bench.result.trace?.cut ?? t.threshold ?? 128;
  const value = Math.min(254, Math.max(1, Math.round(t.threshold ?? cut)));
  const [live, setLive] = useState<number | null>(null);
  const edit = (threshold: number): Edit[] => [{ kind: "set-threshold", threshold }];
  return (
    <div>
      <div className="flex items-center gap-2 pb-1 text-sm">
        <span className="flex-1">Threshold</span>
        <output className="text-sm font-semibold">{live ?? value}</output>
        <Button
          className="text-xs"
          disabled={t.threshold === null}
          onClick={() => bench.change([{ kind: "set-threshold", threshold: null }])}
        >
          Automatic
        </Button>
      </div>
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
      <div className="flex justify-between pt-0.5 text-xs text-soft" aria-hidden="true">
        <span>dark</span>
        <span>light</span>
      </div>
    </div>
  );
}

function Live(p: {
  bench: Bench;
  label: string;
  unit: string;
  value: number;
  min: number;
  max: number;
  step: number;
  edit: (v: number) => Edit;
}) {
  const [live, setLive] = useState<number | null>(null);
  return (
    <div className="flex items-center gap-3 py-1 text-sm">
      <span className="w-20 flex-none">{p.label}</span>
      <Track
        label={p.label}
        value={live ?? p.value}
        min={p.min}
        max={p.max}
        step={p.step}
        onMove={(v) => {
          setLive(v);
          p.bench.preview([p.edit(v)]);
        }}
        onSettle={(v) => {
          setLive(null);
          if (v !== p.value) p.bench.change([p.edit(v)]);
        }}
      />
      <output className="w-16 flex-none text-right text-sm whitespace-nowrap">
        {Number((live ?? p.value).toFixed(2))} <span className="text-xs text-soft">{p.unit}</span>
      </output>
    </div>
  );
}

function Track(p: {
  label: string;
  value: number;
  min: number;
  max: number;
  step?: number;
  onMove: (v: number) => void;
  onSettle: (v: number) => void;
}) {
  return (
    <Slider.Root
      className="relative flex h-5 w-full touch-none items-center select-none"
      value={[p.value]}
      min={p.min}
      max={p.max}
      step={p.step ?? 1}
      onValueChange={([v]) => v !== undefined && p.onMove(v)}
      onValueCommit={([v]) => v !== undefined && p.onSettle(v)}
    >
      <Slider.Track className="relative h-1.5 w-full rounded-full bg-line">
        <Slider.Range className="absolute h-full rounded-full bg-glaze" />
      </Slider.Track>
      <Slider.Thumb
        aria-label={p.label}
        className="block size-4 rounded-[4px] border-2 border-tile bg-glaze"
      />
    </Slider.Root>
  );
}

function Toggle({
  label,
  isOn,
  onChange,
}: {
  label: string;
  isOn: boolean;
  onChange: (on: boolean) => void;
}) {
  const id = useId();
  return (
    <div className="flex items-center gap-2 pt-2 text-sm">
      <label htmlFor={id} className="flex-1">
        {label}
      </label>
      <Switch.Root
        id={id}
        checked={isOn}
        onCheckedChange={onChange}
        className="h-5 w-9 rounded-[5px] bg-edge data-[state=checked]:bg-glaze"
      >
        <Switch.Thumb className="block size-4 translate-x-0.5 rounded-[4px] bg-tile transition-transform data-[state=checked]:translate-x-[18px]" />
      </Switch.Root>
    </div>
  );
}

/** Whose picture it is; goes into the 3MF. */
function Maker({ bench }: { bench: Bench }) {
  const credit = bench.design.document.credit;
  const id = useId();
  const [draft, setDraft] = useState(credit.maker);
  useEffect(() => setDraft(credit.maker), [credit.maker]);
  return (
    <Group title="Credit">
      <div className="flex items-center gap-2 text-sm">
        <label htmlFor={id} className="w-20">
          Drawn by
        </label>
        <input
          id={id}
          value={draft}
          onChange={(e) => setDraft(e.target.value)}
          onBlur={() =>
            draft !== credit.maker &&
            bench.change([{ kind: "set-credit", credit: { ...credit, maker: draft } }])
          }
          className="min-w-0 flex-1 rounded-tile border border-edge bg-field px-2 py-1 text-sm"
        />
      </div>
      {credit.licence && (
        <p className="pt-1 text-xs text-soft">
          {credit.licence} · {credit.source}
        </p>
      )}
    </Group>
  );
}
