import { type ReactNode, useEffect, useRef, useState } from "react";
import type { Bench } from "../../api/bench";
import { contoursUrl, PICTURE_TYPES } from "../../api/client";
import { Button } from "../../ui/button";
import { isTyping } from "../../ui/help";
import { Icon, type IconName } from "../../ui/icons";
import { rough } from "../../ui/length";
import { Card, Group, Panel } from "../../ui/panel";
import { ProblemNote } from "../../ui/problem-note";
import { SizeFields } from "../outline/size-fields";
import { Board, type BoardEvents, type BoardView } from "./board";
import { CreditGroup } from "./credit";
import { InkGroup } from "./ink";
import { Live, Toggle, Track } from "./slider";
import { useBrush } from "./tools/brush";
import { useCorners } from "./tools/corners";
import { useCrop } from "./tools/crop";
import { useDistance } from "./tools/distance";
import { usePick } from "./tools/pick";
import { Tray } from "./tools/tray";
import { useTurn } from "./tools/turn";

type Tool = "crop" | "turn" | "brush" | "corners" | "distance" | "pick";
interface ToolParts {
  events: BoardEvents;
  overlay: (view: BoardView) => ReactNode;
  tray: ReactNode;
}
type UseTool = (bench: Bench, onDone: () => void) => ToolParts;

const TOOLS: { tool: Tool; words: string; icon: IconName; use: UseTool; forPixels?: boolean }[] = [
  { tool: "crop", words: "Crop", icon: "crop", use: useCrop },
  { tool: "turn", words: "Turn", icon: "turn", use: useTurn },
  { tool: "brush", words: "Tidy", icon: "brush", use: useBrush, forPixels: true },
  { tool: "corners", words: "Sheet", icon: "sheet", use: useCorners, forPixels: true },
  { tool: "distance", words: "Distance", icon: "distance", use: useDistance },
];

/** The picture, and what of it counts as ink. The traced outline lies over it at all times. */
export function Artwork({ bench }: { bench: Bench }) {
  const [tool, setTool] = useState<Tool | null>(null);
  const done = () => setTool(null);
  const active = [...TOOLS, { tool: "pick" as const, use: usePick }].find((t) => t.tool === tool);
  const isDrawing = bench.result.picture?.is_drawing ?? false;
  return (
    <div className="grid min-h-0 grid-cols-[minmax(0,1fr)_320px] gap-1.5">
      {active ? (
        // A tool's own state lives as long as the tool is in the hand, and starts anew with another picture.
        <WithTool
          key={`${active.tool}${bench.result.picture?.part}`}
          use={active.use}
          bench={bench}
          onDone={done}
        >
          {(parts) => (
            <PicturePanel bench={bench} tool={tool} setTool={setTool} isDrawing={isDrawing} parts={parts} />
          )}
        </WithTool>
      ) : (
        <PicturePanel bench={bench} tool={null} setTool={setTool} isDrawing={isDrawing} parts={null} />
      )}
      <Settings bench={bench} onPick={() => setTool("pick")} onMark={() => setTool("distance")} />
    </div>
  );
}

function WithTool(p: {
  use: UseTool;
  bench: Bench;
  onDone: () => void;
  children: (parts: ToolParts) => ReactNode;
}) {
  return p.children(p.use(p.bench, p.onDone));
}

function PicturePanel(p: {
  bench: Bench;
  tool: Tool | null;
  setTool: (t: Tool | null) => void;
  isDrawing: boolean;
  parts: ToolParts | null;
}) {
  const { bench, tool, setTool, parts } = p;
  const [dim, setDim] = useState(45);
  const [showNodes, setNodes] = useState(false);
  const [loupe, setLoupe] = useState<boolean | null>(null);
  const [isBare, setBare] = useState(false);
  const showLoupe = loupe ?? (tool === "corners" || tool === "distance" || tool === "pick");
  const t = bench.result.trace;
  const o = bench.result.outline;
  const unit = bench.design.document.unit;
  const smallest = t && o ? ` · smallest piece ${rough(t.smallest * o.mm_per_px, unit)} ${unit}` : "";
  const inks = bench.result.patches.filter((q) => q.is_ink).length;

  useEffect(() => {
    const press = (e: KeyboardEvent) => {
      if (isTyping(e) || e.ctrlKey || e.metaKey || e.altKey) return;
      const key = e.key.toLowerCase();
      if (key === "b") setBare(e.type === "keydown");
      else if (e.type === "keyup") return;
      else if (key === "n") setNodes((on) => !on);
      else if (key === "l") setLoupe(!showLoupe);
      else if (key === "escape" && tool) {
        setTool(null);
        e.preventDefault();
      } else return;
    };
    // Before the bench's own keys, so that Escape first puts the tool down.
    addEventListener("keydown", press, true);
    addEventListener("keyup", press, true);
    return () => {
      removeEventListener("keydown", press, true);
      removeEventListener("keyup", press, true);
    };
  }, [setTool, showLoupe, tool]);

  return (
    <Panel
      title="Picture"
      note={
        t ? `${inks} ${inks === 1 ? "patch" : "patches"} · ${t.nodes} nodes${smallest}` : "not traced yet"
      }
      tools={
        <>
          <Switch words="Nodes" title="Show the nodes (N)" isOn={showNodes} onChange={setNodes} />
          <Switch
            words="Loupe"
            title="A loupe follows the pointer (L)"
            isOn={showLoupe}
            onChange={setLoupe}
          />
          <Button
            className="mr-2 text-xs"
            title="Hold to see the picture alone (B)"
            onPointerDown={() => setBare(true)}
            onPointerUp={() => setBare(false)}
            onPointerLeave={() => setBare(false)}
          >
            Hold: before
          </Button>
          <span className="flex w-32 items-center gap-2 pr-2 text-xs text-soft">
            dimmed
            <Track label="Dim the picture" value={dim} min={0} max={100} onMove={setDim} onSettle={setDim} />
          </span>
        </>
      }
    >
      <div className="flex h-full flex-col">
        <div role="toolbar" aria-label="Tools on the picture" className="flex flex-none gap-1 px-2 pb-1.5">
          {TOOLS.map((x) => (
            <Button
              key={x.tool}
              aria-pressed={tool === x.tool}
              disabled={x.forPixels === true && p.isDrawing}
              className={`gap-1 px-2 text-xs ${tool === x.tool ? "border-glaze bg-sunk text-glaze" : ""}`}
              onClick={() => setTool(tool === x.tool ? null : x.tool)}
            >
              <Icon name={x.icon} className="size-4" />
              {x.words}
            </Button>
          ))}
          <Replace bench={bench} />
        </div>
        {parts?.tray ?? <Done bench={bench} />}
        <div className="relative min-h-0 flex-1">
          <Board
            bench={bench}
            dim={dim}
            showNodes={showNodes}
            showLoupe={showLoupe}
            isBare={isBare}
            cursor={tool ? "crosshair" : "default"}
            events={parts?.events ?? {}}
          >
            {(view) => parts?.overlay(view) ?? null}
          </Board>
        </div>
      </div>
    </Panel>
  );
}

const SHEETS = { a4: "an A4 sheet", letter: "a Letter sheet", card: "a bank card", other: "a rectangle" };

/** What was done to the picture so far; keeps the tray's place, so that the picture stays where it is. */
function Done({ bench }: { bench: Bench }) {
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

function Switch(p: { words: string; title: string; isOn: boolean; onChange: (on: boolean) => void }) {
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

/** Another picture under the same design. */
function Replace({ bench }: { bench: Bench }) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <Button className="ml-auto px-2 text-xs" onClick={() => input.current?.click()}>
        Another picture…
      </Button>
      <input
        ref={input}
        type="file"
        aria-label="Another picture file"
        accept={PICTURE_TYPES}
        className="sr-only"
        tabIndex={-1}
        onChange={(e) => {
          const file = e.target.files?.[0];
          e.target.value = "";
          if (file) bench.replace(file);
        }}
      />
    </>
  );
}

function Settings({ bench, onPick, onMark }: { bench: Bench; onPick: () => void; onMark: () => void }) {
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
          label="Deviation"
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
          disabled={!picture?.file_mm_per_px}
          title={picture?.file_mm_per_px ? undefined : "The file does not say how large its picture is"}
          onClick={() => bench.change([{ kind: "set-file-size" }])}
        >
          The file's own size
        </Button>
      </div>
      <CreditGroup bench={bench} />
    </Card>
  );
}
