import type { Change } from "../../../api/generated/Change";
import type { DrawnLine } from "../../../api/generated/DrawnLine";
import type { Seen } from "../../../api/generated/Seen";
import type { Spot } from "../../../api/generated/Spot";
import type { Use } from "../../../api/generated/Use";

/** What is edited: the lines of an entry of the list (a known one, or the one that was just added to these), or those of a traced patch, which become an entry with the first change. */
export type Target =
  | { id: number }
  | { addedTo: ReadonlySet<number> }
  | { spot: Spot; use: Use; seen: Seen; before?: number };

/** The lines of an entry that has nodes. */
export function linesIn(change: Change): DrawnLine[] | null {
  switch (change.do) {
    case "draw":
    case "cut":
      return [change.line];
    case "nodes":
      return change.lines;
    default:
      return null;
  }
}

/** The entry with other lines. */
export function withLines(change: Change, lines: DrawnLine[]): Change {
  const [line] = lines;
  if (change.do === "nodes") return { ...change, lines };
  return (change.do === "draw" || change.do === "cut") && line ? { ...change, line } : change;
}
