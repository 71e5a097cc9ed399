import type { ResultView } from "../../api/generated/ResultView";
import type { Side } from "../../state/interface";

/** The two sides by name. */
export function sideNames(result: ResultView): Record<Side, string> {
  if (!result.is_mirrored) return { cookie: "above", tool: "below" };
  return { cookie: result.recipe.startsWith("Cutter") ? "cookie" : "print", tool: "tool" };
}

/** Which of the two sides a drawing shows; only tools have two that differ. */
export function sideWords(result: ResultView, side: Side): string {
  if (!result.is_mirrored) return side === "cookie" ? "as it reads" : "seen from below";
  return side === "cookie" ? `as the ${sideNames(result).cookie} reads` : "the tool as printed, mirrored";
}
