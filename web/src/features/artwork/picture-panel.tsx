import { type ReactNode, useEffect, useState } from "react";
import type { Bench } from "../../api/bench";
import { Button } from "../../ui/button";
import { isTyping } from "../../ui/help";
import { Icon, type IconName } from "../../ui/icons";
import { rough } from "../../ui/length";
import { Panel } from "../../ui/panel";
import { Toolbar } from "../../ui/toolbar";
import { Track } from "../../ui/track";
import { Board, type BoardEvents, type BoardView } from "./board";
import { Replace } from "./replace";
import { Done, Switch } from "./settings";
import { useBrush } from "./tools/brush";
import { useCorners } from "./tools/corners";
import { useCrop } from "./tools/crop";
import { useDistance } from "./tools/distance";
import { useTurn } from "./tools/turn";

export type Tool = "crop" | "turn" | "brush" | "corners" | "distance" | "pick";

interface ToolParts {
  events: BoardEvents;
  overlay: (view: BoardView) => ReactNode;
  tray: ReactNode;
}

type UseTool = (bench: Bench, onDone: () => void) => ToolParts;

export const TOOLS: { tool: Tool; words: string; icon: IconName; use: UseTool; forPixels?: boolean }[] = [
  { tool: "crop", words: "Crop", icon: "crop", use: useCrop },
  { tool: "turn", words: "Turn", icon: "turn", use: useTurn },
  { tool: "brush", words: "Tidy", icon: "brush", use: useBrush, forPixels: true },
  { tool: "corners", words: "Card or sheet", icon: "sheet", use: useCorners, forPixels: true },
  { tool: "distance", words: "Distance", icon: "distance", use: useDistance },
];

export function WithTool(p: {
  use: UseTool;
  bench: Bench;
  onDone: () => void;
  children: (parts: ToolParts) => ReactNode;
}) {
  return p.children(p.use(p.bench, p.onDone));
}

export function PicturePanel(p: {
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
        <Toolbar label="Tools on the picture" className="flex flex-none flex-wrap gap-1 px-2 pb-1.5">
          {TOOLS.map((x) => (
            <Button
              key={x.tool}
              aria-pressed={tool === x.tool}
              why={
                x.forPixels === true &&
                p.isDrawing &&
                "An SVG is a drawing already: this is for photos and scans"
              }
              className={`gap-1 px-2 text-xs ${tool === x.tool ? "border-glaze bg-sunk text-glaze" : ""}`}
              onClick={() => setTool(tool === x.tool ? null : x.tool)}
            >
              <Icon name={x.icon} className="size-4" />
              {x.words}
            </Button>
          ))}
          <Replace bench={bench} />
        </Toolbar>
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
