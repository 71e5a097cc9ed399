import { useEffect } from "react";
import type { Bench } from "../../api/bench";
import type { Spot } from "../../api/generated/Spot";
import type { Use } from "../../api/generated/Use";
import { isTyping } from "../../ui/help";
import { allOf } from "./alike";
import { copyPatches, pastePatches } from "./clipboard";
import { TOOLS, type ToolName } from "./tool-list";
import { doubled } from "./tools/tool";
import { keyedUse } from "./uses";

interface Hands {
  bench: Bench;
  chosen: readonly number[];
  /** The chosen patches as they are saved. */
  on: Spot[];
  tool: ToolName;
  take: (name: ToolName) => void;
  setChosen: (now: number[]) => void;
  giveChosen: (use: Use) => void;
}

/** Copy, paste, double, choose all, a key for every tool, and one for every use of what is chosen. */
export function useKeys({ bench, chosen, on, tool, take, setChosen, giveChosen }: Hands) {
  useEffect(() => {
    const press = (e: KeyboardEvent) => {
      if (isTyping(e) || e.altKey) return;
      const key = e.key.toLowerCase();
      if (e.ctrlKey || e.metaKey) {
        if (key === "c" && chosen.length > 0) copyPatches(bench, chosen);
        else if (key === "v") pastePatches(bench);
        else if (key === "a") setChosen(allOf(bench.result.patches));
        else if (key === "d" && chosen.length > 0) {
          const change = doubled(on, bench.result.outline?.mm_per_px ?? 1);
          bench.change([{ kind: "add-change", change }]);
        } else return;
        e.preventDefault();
        return;
      }
      if (key === "escape") {
        // One step back at a time: the tool first, then the choice.
        if (tool !== "choose") take("choose");
        else if (chosen.length > 0) setChosen([]);
        else return;
        e.preventDefault();
        return;
      }
      // In the list of patches, letters give uses.
      if ((e.target as Element).closest("[data-row]")) return;
      const use = tool === "choose" && chosen.length > 0 ? keyedUse(key) : undefined;
      if (use) {
        giveChosen(use);
        return;
      }
      const next = tool === "nodes" && key === "n" ? undefined : TOOLS.find((t) => t.key === key);
      if (next && next.tool !== tool) take(next.tool);
    };
    addEventListener("keydown", press, true);
    return () => removeEventListener("keydown", press, true);
  }, [bench, chosen, on, take, tool, setChosen, giveChosen]);
}
