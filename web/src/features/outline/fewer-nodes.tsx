import { type ReactNode, useState } from "react";
import type { Bench } from "../../api/bench";
import type { Change } from "../../api/generated/Change";
import type { Spot } from "../../api/generated/Spot";
import { Track } from "../../ui/track";
import { patchAt } from "./known";

/** The deviation by slider or typed, with what is left of the nodes. */
export function FewerNodes(p: {
  bench: Bench;
  id: number;
  change: Extract<Change, { do: "fewer" }>;
  field: (name: string, label: string, value: number) => ReactNode;
}) {
  const { bench, id, change } = p;
  const [live, setLive] = useState<number | null>(null);
  const edit = (deviation: number) => ({ kind: "set-change" as const, id, change: { ...change, deviation } });
  return (
    <>
      {p.field("deviation", "Largest deviation", live ?? change.deviation)}
      <div className="flex items-center gap-3 pb-1 text-xs">
        <Track
          label="Largest deviation, slider"
          value={live ?? change.deviation}
          min={0.01}
          max={1}
          step={0.01}
          onMove={(v) => {
            setLive(v);
            bench.preview([edit(v)]);
          }}
          onSettle={(v) => {
            setLive(null);
            if (v !== change.deviation) bench.change([edit(v)]);
          }}
        />
        <output className="flex-none text-soft" data-count>
          {nodesOfAll(bench, change.on)} nodes
        </output>
      </div>
    </>
  );
}

/** Nodes of the patches that the spots name, as they are now. */
function nodesOfAll(bench: Bench, on: Spot[]): number {
  const nodes = (s: Spot) =>
    bench.result.patches[patchAt(bench.result.patches, s) ?? -1]?.path.match(/[LC]/g)?.length;
  return on.reduce((n, s) => n + (nodes(s) ?? 0), 0);
}
