import { type ReactNode, useEffect, useState } from "react";
import type { Bench } from "../../api/bench";
import { outlineUrl } from "../../api/client";
import type { PatchView } from "../../api/generated/PatchView";
import type { Spot } from "../../api/generated/Spot";
import type { Thinnest } from "../../api/generated/Thinnest";
import type { Use } from "../../api/generated/Use";
import { useInterface } from "../../state/interface";
import { Button } from "../../ui/button";
import { isTyping } from "../../ui/help";
import { Icon, type IconName } from "../../ui/icons";
import { Card, Group, Panel } from "../../ui/panel";
import { ProblemNote } from "../../ui/problem-note";
import { Track } from "../artwork/slider";
import { Words } from "../views/drawing";
import { SideSwitch } from "../views/side-switch";
import { sideWords } from "../views/side-words";
import { Actions, copyPatches, pastePatches } from "./actions";
import { Canvas, type CanvasView, type Zoom } from "./canvas";
import { Changes } from "./changes";
import { Marks } from "./marks";
import { Nest } from "./nest";
import { SizeFields } from "./size-fields";
import { useChoose } from "./tools/choose";
import { useMeasure } from "./tools/measure";
import { useNodes } from "./tools/nodes";
import { useCut, useFreehand, usePen } from "./tools/pen";
import { doubled, found, spotOf, spotsOf, type ToolParts, type ToolProps, withPins } from "./tools/tool";

type ToolName = "choose" | "pen" | "freehand" | "nodes" | "cut" | "measure";
const TOOLS: { tool: ToolName; words: string; icon: IconName; key: string }[] = [
  { tool: "choose", words: "Choose", icon: "choose", key: "v" },
  { tool: "pen", words: "Pen", icon: "pen", key: "p" },
  { tool: "freehand", words: "Freehand", icon: "brush", key: "f" },
  { tool: "nodes", words: "Nodes", icon: "nodes", key: "n" },
  { tool: "cut", words: "Cut", icon: "cut", key: "k" },
  { tool: "measure", words: "Measure", icon: "distance", key: "d" },
];

/** Contours at true size: which patch is what, and what is done to it. */
export function Outline({ bench }: { bench: Bench }) {
  const { result } = bench;
  const { patches } = result;
  // Chosen patches are remembered by a point in each: their places in the list change.
  const [spots, setSpots] = useState<Spot[]>([]);
  const [tool, setTool] = useState<{ name: ToolName; entry: number | null; run: number }>({
    name: "choose",
    entry: null,
    run: 0,
  });
  const among = (all: readonly PatchView[]) => [
    ...new Set(spots.map((s) => found(all, s)).filter((i) => i !== null)),
  ];
  const chosen = among(patches);
  const [thin, setThin] = useState<Thinnest | null>(null);
  // What is seen stays when another tool is taken in hand.
  const [zoom, setZoom] = useState<Zoom | null>(null);
  const [picture, setPicture] = useState<number | null>(null);
  const seen = { zoom, setZoom, picture, setPicture, thin };
  const saved = bench.design.result.patches;
  const on = spotsOf(saved, among(saved));
  const setChosen = (now: number[]) => setSpots(spotsOf(patches, now));
  const give = (p: PatchView, use: Use) =>
    bench.change([{ kind: "set-uses", choices: [{ spot: spotOf(p), use }] }]);
  // A click puts a patch aside, or brings it back as what it would be by itself.
  const toggle = (i: number) => {
    const p = patches[i];
    if (p) give(p, p.use === "aside" ? (p.depth === 0 ? "edge" : "detail") : "aside");
  };
  const pick = (i: number) => setChosen(chosen.includes(i) ? chosen.filter((n) => n !== i) : [...chosen, i]);
  const pin = (p: PatchView) => bench.change([withPins(patches, [p], !p.is_pinned)]);
  const take = (name: ToolName, entry: number | null = null) =>
    setTool((now) => ({ name, entry, run: now.run + 1 }));
  useKeys(bench, chosen, on, tool.name, take);
  const giveAll = (use: (p: PatchView) => Use) =>
    bench.change([{ kind: "set-uses", choices: patches.map((p) => ({ spot: spotOf(p), use: use(p) })) }]);
  const toolProps: ToolProps = { bench, chosen, on, setChosen, onDone: () => take("choose") };
  return (
    <div className="grid min-h-0 grid-cols-[minmax(0,1fr)_320px] gap-1.5">
      <WithTool
        key={`${tool.name}${tool.run}`}
        {...toolProps}
        name={tool.name}
        entry={tool.entry}
        onToggle={toggle}
      >
        {(parts) => <PlanPanel {...toolProps} tool={tool.name} take={take} parts={parts} {...seen} />}
      </WithTool>
      <Card
        title="Outline"
        foot={
          <a
            href={outlineUrl(bench.design.id)}
            download
            className="flex justify-center rounded-tile border border-edge px-3 py-1 text-sm font-semibold hover:border-glaze hover:text-glaze"
          >
            Outline as SVG
          </a>
        }
      >
        {result.problem && <ProblemNote problem={result.problem} />}
        <SizeFields bench={bench} />
        <Actions bench={bench} chosen={chosen} on={on} setChosen={setChosen} onShow={setThin} />
        <Changes bench={bench} on={on} onNodes={(entry) => take("nodes", entry)} />
        <Group title="Patches" note={`${patches.filter((p) => p.use !== "aside").length} in use`}>
          <div className="flex gap-1 pb-1.5">
            <Button
              className="flex-1 px-1 text-xs"
              title="The outer contours shape the object; all else is put aside"
              onClick={() => giveAll((p) => (p.is_ink && p.depth === 0 ? "edge" : "aside"))}
            >
              Only the outer edge
            </Button>
            <Button
              className="flex-1 px-1 text-xs"
              title="What the outer contours enclose shapes the object"
              disabled={!patches.some((p) => p.depth === 1)}
              onClick={() =>
                giveAll((p) => (p.depth === 1 ? "edge" : p.depth > 1 && p.is_ink ? "detail" : "aside"))
              }
            >
              Only what is inside
            </Button>
          </div>
          <Nest bench={bench} chosen={chosen} onPick={pick} onUse={give} onPin={pin} />
        </Group>
      </Card>
    </div>
  );
}

/** Copy, paste, double, and a key for every tool. */
function useKeys(
  bench: Bench,
  chosen: readonly number[],
  on: Spot[],
  tool: ToolName,
  take: (name: ToolName) => void,
) {
  useEffect(() => {
    const press = (e: KeyboardEvent) => {
      if (isTyping(e) || e.altKey) return;
      const key = e.key.toLowerCase();
      if (e.ctrlKey || e.metaKey) {
        if (key === "c" && chosen.length > 0) copyPatches(bench, chosen);
        else if (key === "v") pastePatches(bench);
        else if (key === "d" && chosen.length > 0) {
          const change = doubled(on, bench.result.outline?.mm_per_px ?? 1);
          bench.change([{ kind: "add-change", change }]);
        } else return;
        e.preventDefault();
        return;
      }
      if (key === "escape" && tool !== "choose") {
        // Before the bench's own keys, so that Escape first puts the tool down.
        e.preventDefault();
        take("choose");
        return;
      }
      // In the list of patches, letters give uses.
      if ((e.target as Element).closest("[data-row]")) return;
      const next = tool === "nodes" && key === "n" ? undefined : TOOLS.find((t) => t.key === key);
      if (next && next.tool !== tool) take(next.tool);
    };
    addEventListener("keydown", press, true);
    return () => removeEventListener("keydown", press, true);
  }, [bench, chosen, on, take, tool]);
}

interface WithToolProps extends ToolProps {
  name: ToolName;
  entry: number | null;
  onToggle: (i: number) => void;
  children: (parts: ToolParts) => ReactNode;
}

/** A tool's own state lives as long as the tool is in the hand. */
function WithTool(p: WithToolProps) {
  switch (p.name) {
    case "choose":
      return <Choosing {...p} />;
    case "nodes":
      return <OnNodes {...p} />;
    default:
      return (
        <Drawing
          {...p}
          use={{ pen: usePen, freehand: useFreehand, cut: useCut, measure: useMeasure }[p.name]}
        />
      );
  }
}
const Choosing = (p: WithToolProps) => p.children(useChoose(p));
const OnNodes = (p: WithToolProps) => p.children(useNodes(p));
const Drawing = (p: WithToolProps & { use: (p: ToolProps) => ToolParts }) => p.children(p.use(p));

interface PlanPanelProps extends ToolProps {
  tool: ToolName;
  take: (t: ToolName) => void;
  parts: ToolParts;
  thin: Thinnest | null;
  zoom: Zoom | null;
  setZoom: (z: Zoom | null) => void;
  picture: number | null;
  setPicture: (percent: number) => void;
}

function PlanPanel(p: PlanPanelProps) {
  const { bench, parts, tool, picture, setPicture } = p;
  const side = useInterface((s) => s.side);
  // Who draws by hand wants to see what is drawn over.
  const shown = picture ?? (tool === "pen" || tool === "freehand" ? 60 : 0);
  return (
    <Panel
      title="Plan"
      note={sideWords(bench.result, side)}
      tools={
        <>
          <span className="flex w-36 items-center gap-2 pr-2 text-xs text-soft">
            picture
            <Track
              label="Show the picture"
              value={shown}
              min={0}
              max={100}
              onMove={setPicture}
              onSettle={setPicture}
            />
          </span>
          <SideSwitch result={bench.result} />
        </>
      }
    >
      <div className="flex h-full flex-col">
        <div role="toolbar" aria-label="Tools on the outline" className="flex flex-none gap-1 px-2 pb-1.5">
          {TOOLS.map((t) => (
            <Button
              key={t.tool}
              aria-pressed={tool === t.tool}
              title={`${t.words} (${t.key.toUpperCase()})`}
              disabled={t.tool === "cut" && p.chosen.length === 0}
              className={`gap-1 px-2 text-xs ${tool === t.tool ? "border-glaze bg-sunk text-glaze" : ""}`}
              onClick={() => p.take(t.tool)}
            >
              <Icon name={t.icon} className="size-4" />
              {t.words}
            </Button>
          ))}
        </div>
        {parts.tray ?? (
          <p className="flex min-h-12 flex-none items-center border-y border-line bg-sunk px-3 text-xs text-soft">
            Click a patch to keep it or put it aside; Shift-click, sweep a frame or (with Alt) draw a loop to
            choose; drag what is chosen.
          </p>
        )}
        <div className="relative min-h-0 flex-1">
          <Canvas
            bench={bench}
            chosen={p.chosen}
            events={parts.events}
            picture={shown / 100}
            zoom={p.zoom}
            setZoom={p.setZoom}
            overlay={(view) => (
              <>
                {(tool === "choose" || tool === "measure") && <Marks bench={bench} frame={view} />}
                <LostPatches bench={bench} view={view} />
                {p.thin && <Thin at={view.toScreen(p.thin.at)} />}
                {parts.overlay(view)}
              </>
            )}
          />
          <Legend />
        </div>
      </div>
    </Panel>
  );
}

/** Where patches were that entries of the list have lost. */
function LostPatches({ bench, view }: { bench: Bench; view: CanvasView }) {
  const lost = (bench.result.outline?.astray ?? []).flatMap((a) => a.lost);
  return lost.map((s) => {
    const [l, t, r, b] = s.like?.span ?? [s.at[0], s.at[1], s.at[0], s.at[1]];
    const [[x0, y0], [x1, y1]] = [view.toScreen([l, t]), view.toScreen([r, b])];
    const [x, y, w, h] = [Math.min(x0, x1), Math.min(y0, y1), Math.abs(x1 - x0), Math.abs(y1 - y0)];
    return (
      <g key={`${s.at}`} pointerEvents="none" data-lost>
        <rect
          x={x - 3}
          y={y - 3}
          width={w + 6}
          height={h + 6}
          fill="none"
          stroke="var(--terracotta)"
          strokeDasharray="5 4"
        />
        <Words x={x - 3} y={y - 8}>
          a patch was here
        </Words>
      </g>
    );
  });
}

function Thin({ at: [x, y] }: { at: [number, number] }) {
  return (
    <g stroke="var(--terracotta)" fill="none" pointerEvents="none" data-thinnest>
      <circle cx={x} cy={y} r={14} strokeWidth={2.5} />
      <path d={`M${x - 22} ${y}h16M${x + 6} ${y}h16`} strokeWidth={1.4} />
    </g>
  );
}

function Legend() {
  const uses: [string, string][] = [
    ["edge", "bg-wall"],
    ["detail", "bg-stamp"],
    ["put aside", "border border-dashed border-edge"],
  ];
  return (
    <p className="pointer-events-none absolute right-3 bottom-2 flex gap-4 text-xs text-soft">
      {uses.map(([words, look]) => (
        <span key={words} className="flex items-center gap-1.5">
          <span className={`size-2.5 rounded-xs ${look}`} /> {words}
        </span>
      ))}
    </p>
  );
}
