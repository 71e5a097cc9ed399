import type { Bench } from "../../api/bench";
import { WordButton } from "../../ui/word-button";
import { spotOf } from "../outline/tools/tool";

/** What a cutter's stamp could press and does not: details that are put aside, offered where they are missed. */
export function PutAside({ bench }: { bench: Bench }) {
  if (bench.design.document.recipe !== "cutter-stamp") return null;
  const { patches } = bench.result;
  // Where lines are stamped, the gaps between them are no details; else they may be the eyes of a face.
  const hasLines = patches.some((p) => p.use === "detail" || p.use === "both");
  const aside = patches.filter((p) => p.use === "aside" && p.depth > 0 && (p.is_ink || !hasLines));
  if (aside.length === 0) return null;
  const details = aside.length === 1 ? "1 detail is" : `${aside.length} details are`;
  return (
    <p className="pt-1.5 text-xs text-soft" data-testid="put-aside">
      {details} put aside:{" "}
      <WordButton
        onClick={() =>
          void bench.change([
            { kind: "set-uses", choices: aside.map((p) => ({ spot: spotOf(p), use: "detail" })) },
          ])
        }
      >
        use as stamp lines
      </WordButton>
    </p>
  );
}
