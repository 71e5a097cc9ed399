import type { Dispatch, SetStateAction } from "react";
import type { Bench } from "../../api/bench";
import type { Entry } from "../../api/generated/Entry";
import type { Thinnest } from "../../api/generated/Thinnest";
import type { Use } from "../../api/generated/Use";
import { useInterface } from "../../state/interface";
import { Button } from "../../ui/button";
import { Icon } from "../../ui/icons";
import { Panel } from "../../ui/panel";
import { Toolbar } from "../../ui/toolbar";
import { Track } from "../../ui/track";
import { Words } from "../views/drawing";
import { FilamentSwitch } from "../views/filament-switch";
import { SideSwitch } from "../views/side-switch";
import { sideWords } from "../views/side-words";
import { Canvas } from "./canvas";
import type { CanvasView, Zoom } from "./canvas-view";
import { EntryGrips } from "./entry-grips";
import { Marks } from "./marks";
import { OpenLines } from "./open-lines";
import { Plate } from "./plate";
import { TOOLS, type ToolName } from "./tool-list";
import type { ToolParts, ToolProps } from "./tools/tool";
import { UseBar, UseIcon } from "./uses";

interface PlanPanelProps extends ToolProps {
  tool: ToolName;
  take: (t: ToolName) => void;
  parts: ToolParts;
  thin: Thinnest | null;
  /** The entry whose panel is open: it is sized, bent and turned on the drawing. */
  entry: Entry | null;
  zoom: Zoom | null;
  setZoom: Dispatch<SetStateAction<Zoom | null>>;
  picture: number | null;
  setPicture: (percent: number) => void;
  /** Gives a use to what is chosen. */
  onUse: (use: Use) => void;
}

export function PlanPanel(p: PlanPanelProps) {
  const { bench, parts, tool, picture, setPicture } = p;
  const side = useInterface((s) => s.side);
  // Who draws by hand wants to see what is drawn over.
  const isByHand = bench.design.document.trace.ink === "none";
  const shown = picture ?? (isByHand || tool === "pen" || tool === "freehand" ? 60 : 0);
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
          <FilamentSwitch result={bench.result} />
          <SideSwitch result={bench.result} />
        </>
      }
    >
      <div className="flex h-full flex-col">
        <Toolbar label="Tools on the outline" className="flex flex-none flex-wrap gap-1 px-2 pb-1.5">
          {TOOLS.map((t) => (
            <Button
              key={t.tool}
              aria-pressed={tool === t.tool}
              title={`${t.words} (${t.key.toUpperCase()})`}
              why={t.tool === "cut" && p.chosen.length === 0 && "Choose the patch that it cuts first"}
              className={`gap-1 px-2 text-xs ${tool === t.tool ? "border-glaze bg-sunk text-glaze" : ""}`}
              onClick={() => p.take(t.tool)}
            >
              <Icon name={t.icon} className="size-4" />
              {t.words}
            </Button>
          ))}
        </Toolbar>
        {parts.tray ??
          (p.chosen.length > 0 ? (
            <UseBar
              patches={bench.result.patches}
              chosen={p.chosen}
              setChosen={p.setChosen}
              onUse={p.onUse}
            />
          ) : (
            <p className="flex min-h-12 flex-none items-center border-y border-line bg-sunk px-3 text-xs text-soft low:hidden">
              {bench.result.patches.length === 0
                ? "Nothing is traced: draw over the picture with the pen or freehand, or add a shape or text. "
                : ""}
              Click a patch to choose it, then say what it is for. Shift-click, a frame, with Alt a loop, or
              Ctrl A choose several; drag what is chosen.
            </p>
          ))}
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
                {tool === "choose" && p.entry && <EntryGrips bench={bench} frame={view} entry={p.entry} />}
                <Plate bench={bench} view={view} isHeld={tool === "choose"} />
                <LostPatches bench={bench} view={view} />
                <OpenLines bench={bench} view={view} />
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
  const uses: [string, Use][] = [
    ["edge", "edge"],
    ["detail", "detail"],
    ["both", "both"],
    ["opening", "opening"],
    ["put aside", "aside"],
  ];
  return (
    <p className="pointer-events-none absolute right-3 bottom-2 flex gap-4 text-xs text-soft">
      {uses.map(([words, use]) => (
        <span key={use} className="flex items-center gap-1">
          <UseIcon use={use} /> {words}
        </span>
      ))}
    </p>
  );
}
