import { useState } from "react";
import { useSearch } from "wouter";
import type { Bench } from "../../api/bench";
import { Views } from "../../ui/views";
import { PicturePanel, TOOLS, type Tool, WithTool } from "./picture-panel";
import { Settings } from "./settings";
import { usePick } from "./tools/pick";

/** The picture, and what of it counts as ink. The traced outline lies over it at all times. */
export function Artwork({ bench }: { bench: Bench }) {
  // Another station may send here for a tool.
  const wished = new URLSearchParams(useSearch()).get("tool");
  const [tool, setTool] = useState<Tool | null>(() => TOOLS.find((t) => t.tool === wished)?.tool ?? null);
  const done = () => setTool(null);
  const active = [...TOOLS, { tool: "pick" as const, use: usePick }].find((t) => t.tool === tool);
  const isDrawing = bench.result.picture?.is_drawing ?? false;
  return (
    <Views names={["Picture", "Settings"]} columns="grid-cols-[minmax(0,1fr)_320px]">
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
    </Views>
  );
}
