import type { Bench } from "../../api/bench";
import { contoursUrl } from "../../api/client";
import { Button } from "../../ui/button";
import { Card, Group } from "../../ui/panel";
import { ProblemNote } from "../../ui/problem-note";
import { SizeFields } from "../outline/size-fields";
import { CreditGroup } from "./credit";
import { InkGroup } from "./ink";
import { Live, Toggle } from "./slider";
import { Tray } from "./tools/tray";

const SHEETS = { a4: "an A4 sheet", letter: "a Letter sheet", card: "a bank card", other: "a rectangle" };

/** What was done to the picture so far; keeps the tray's place, so that the picture stays where it is. */
export function Done({ bench }: { bench: Bench }) {
  const { artwork, prepare: p } = bench.design.document;
  const [w, h] = bench.result.picture?.original ?? [];
  const words = [
    w &&
      h &&
      `${artwork.file_name}, ${Math.round(w)} × ${Math.round(h)} ${bench.result.picture?.is_drawing ? "units" : "px"}`,
    p.level && "levelled",
    p.strokes.length > 0 && `${p.strokes.length} brush ${p.strokes.length === 1 ? "stroke" : "strokes"}`,
    p.straighten && `straightened by ${SHEETS[p.straighten.sheet.kind]}`,
    p.flip && "flipped",
    p.quarter_turns + p.degrees !== 0 && `turned by ${p.quarter_turns * 90 + p.degrees}°`,
    p.crop && "cropped",
  ];
  return <Tray words={words.filter(Boolean).join(" · ")}>{null}</Tray>;
}

export function Switch(p: { words: string; title: string; isOn: boolean; onChange: (on: boolean) => void }) {
  return (
    <Button
      title={p.title}
      aria-pressed={p.isOn}
      className={`mr-1 text-xs ${p.isOn ? "border-glaze text-glaze" : ""}`}
      onClick={() => p.onChange(!p.isOn)}
    >
      {p.words}
    </Button>
  );
}

export function Settings({
  bench,
  onPick,
  onMark,
}: {
  bench: Bench;
  onPick: () => void;
  onMark: () => void;
}) {
  const { result, design } = bench;
  const { trace: t, prepare } = design.document;
  const picture = result.picture;
  const traced = result.trace;
  const count = (n: number, one: string) => `${n} ${one}${n === 1 ? "" : "s"}`;
  const left = traced
    ? [
        traced.specks > 0 && count(traced.specks, "speck"),
        traced.pinholes > 0 && count(traced.pinholes, "pinhole"),
      ]
    : [];
  const gone = left.filter(Boolean).join(", ");
  return (
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
      <InkGroup bench={bench} onPick={onPick} />
      <Group title="Contours" note={gone ? `${gone} left out` : undefined}>
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
          label="Pinholes"
          unit="px²"
          value={t.min_gap}
          min={0}
          max={400}
          step={1}
          edit={(min_gap) => ({ kind: "set-min-gap", min_gap })}
        />
        <Live
          bench={bench}
          label="Corners"
          unit="°"
          value={t.bend}
          min={15}
          max={100}
          step={1}
          edit={(bend) => ({ kind: "set-bend", bend })}
        />
        <Live
          bench={bench}
          label="Smoothing"
          unit="px"
          value={t.deviation}
          min={0}
          max={3}
          step={0.05}
          edit={(deviation) => ({ kind: "set-deviation", deviation })}
        />
        {!picture?.is_drawing && (
          <Toggle
            label="Level uneven light"
            isOn={prepare.level}
            onChange={(level) => bench.change([{ kind: "set-level", level }])}
          />
        )}
      </Group>
      <SizeFields bench={bench} />
      <div className="-mt-1 flex gap-1 pb-3">
        <Button className="flex-1 px-1 text-xs" onClick={onMark}>
          Mark a distance…
        </Button>
        <Button
          className="flex-1 px-1 text-xs"
          why={!picture?.file_mm_per_px && "The file does not say how large its picture is"}
          onClick={() => bench.change([{ kind: "set-file-size" }])}
        >
          The file's own size
        </Button>
      </div>
      <CreditGroup bench={bench} />
    </Card>
  );
}
