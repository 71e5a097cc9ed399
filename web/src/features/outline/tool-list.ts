import type { IconName } from "../../ui/icons";

export type ToolName = "choose" | "pen" | "freehand" | "nodes" | "cut" | "measure";

export const TOOLS: { tool: ToolName; words: string; icon: IconName; key: string }[] = [
  { tool: "choose", words: "Choose", icon: "choose", key: "c" },
  { tool: "pen", words: "Pen", icon: "pen", key: "p" },
  { tool: "freehand", words: "Freehand", icon: "brush", key: "f" },
  { tool: "nodes", words: "Nodes", icon: "nodes", key: "n" },
  { tool: "cut", words: "Cut", icon: "cut", key: "k" },
  { tool: "measure", words: "Measure", icon: "distance", key: "r" },
];
