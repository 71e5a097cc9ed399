import type { Bench } from "../../api/bench";
import type { MeasureView } from "../../api/generated/MeasureView";
import { Button } from "../../ui/button";
import { local } from "../../ui/numbers";
import { MeasureList } from "./measure-list";

/** The measures of the recipe, by the part of the object they belong to; of one part alone where it is named. */
export function Measures({ bench, only }: { bench: Bench; only?: string }) {
  const { result } = bench;
  const hasStamp = result.tiers.some((t) => t.role === "stamp");
  const set = (m: MeasureView, value: string) => [{ kind: "set-measure" as const, name: m.name, value }];
  return (
    <MeasureList
      measures={result.measures}
      unit={bench.design.document.unit}
      only={only}
      // What is typed is refused beside its field, what is chosen is said by the bench.
      onSet={(m, value) => (m.options.length > 0 ? bench.change(set(m, value)) : bench.commit(set(m, value)))}
      onReset={(m) => bench.change([{ kind: "reset-measure", name: m.name }])}
      groupNote={(g) =>
        g === "Wall"
          ? linesOf(result.measures.find((m) => m.name === "wall-thickness")?.value ?? 0, result.line)
          : g === "Stamp lines" && !hasStamp
            ? "no details kept"
            : undefined
      }
      foot={(g) =>
        g === "Place" &&
        result.fit !== null &&
        result.outline && <FitInside bench={bench} fit={result.fit} scale={result.outline.mm_per_px} />
      }
    />
  );
}

/** Makes the drawing as large as its plate allows. */
function FitInside({ bench, fit, scale }: { bench: Bench; fit: number; scale: number }) {
  const isFitted = Math.abs(fit - 1) < 0.002;
  return (
    <div className="flex justify-end pt-1">
      <Button
        className="text-xs"
        why={isFitted && "It fits as large as it can"}
        title={
          isFitted
            ? "It fits as large as it can"
            : `Makes the drawing ${(fit * 100).toFixed(0)} % of its size`
        }
        onClick={() => bench.change([{ kind: "set-scale", mm_per_px: scale * fit }])}
      >
        Fit the drawing inside
      </Button>
    </div>
  );
}

function linesOf(thickness: number, line: number): string {
  const lines = thickness / line;
  const isWhole = Math.abs(lines - Math.round(lines)) < 0.02;
  return `${isWhole ? "" : "about "}${Math.max(1, Math.round(lines))} lines of ${local(String(line))}`;
}
