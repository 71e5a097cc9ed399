import { useState } from "react";
import type { DifferenceView } from "../../api/generated/DifferenceView";
import type { ResultView } from "../../api/generated/ResultView";
import type { StateView } from "../../api/generated/StateView";
import type { Unit } from "../../api/generated/Unit";
import { SOLIDS } from "../../parts";
import { useInterface } from "../../state/interface";
import { said } from "../../ui/numbers";
import { OneOf } from "../../ui/one-of";
import { PartOf, SettingUp } from "../../ui/part";
import { planBox } from "../views/plan";
import { TierShapes } from "../views/tier-shapes";

const WAYS = ["plans", "solids", "in use"] as const;
type Way = (typeof WAYS)[number];

/** An earlier state beside what is on the bench, and what differs. */
export function Compare(p: { now: ResultView; nowName: string; then: StateView; name: string; unit: Unit }) {
  const { now, then, name } = p;
  const isInUse = useInterface((s) => s.isInUse);
  const [way, setWay] = useState<Way>(isInUse ? "in use" : "plans");
  return (
    <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_330px] gap-4 narrow:grid-cols-[minmax(0,1fr)] narrow:overflow-y-auto">
      <div className="flex min-h-0 flex-col gap-2">
        <div className="flex gap-1.5">
          <OneOf all={WAYS} now={way} onChoose={setWay} />
        </div>
        {way === "plans" ? (
          <Plans now={now} then={then.result} />
        ) : (
          <PartOf
            part={SOLIDS.beside}
            coming={<SettingUp />}
            given={{
              states: [
                { words: name, result: then.result },
                { words: p.nowName, result: now },
              ],
              unit: p.unit,
              isInUse: way === "in use",
            }}
          />
        )}
      </div>
      <div className="min-h-0 overflow-y-auto text-sm">
        <Table differs={then.differs} name={name} nowName={p.nowName} />
      </div>
    </div>
  );
}

/** Plan over plan. */
function Plans({ now, then }: { now: ResultView; then: ResultView }) {
  const [a, b] = [planBox(now), planBox(then)];
  const side = Math.max(a.width, b.width, a.height, b.height) * 1.1;
  return (
    <svg
      viewBox={`${-side / 2} ${-side / 2} ${side} ${side}`}
      className="min-h-0 w-full flex-1 rounded-tile bg-sunk"
      role="img"
      aria-label="Both plans"
    >
      <g transform={now.is_mirrored ? "scale(-1 1)" : undefined}>
        <TierShapes result={now} opacity={0.55} />
      </g>
      <g transform={then.is_mirrored ? "scale(-1 1)" : undefined}>
        {then.tiers.map((t, i) => (
          <path
            // biome-ignore lint/suspicious/noArrayIndexKey: several tiers may share a key
            key={i}
            d={t.path}
            fill="none"
            stroke="var(--terracotta)"
            strokeWidth="1.4"
            strokeDasharray="5 3"
            vectorEffect="non-scaling-stroke"
          />
        ))}
      </g>
    </svg>
  );
}

const HEADS: Record<DifferenceView["of"], string> = {
  object: "The object",
  measure: "Measures",
  finding: "Findings",
  measured: "What was measured",
};

/** What differs, group by group. */
function Table(p: { differs: readonly DifferenceView[]; name: string; nowName: string }) {
  const { differs, name } = p;
  const groups = (Object.keys(HEADS) as DifferenceView["of"][])
    .map((of) => ({ of, lines: differs.filter((d) => d.of === of) }))
    .filter((g) => g.lines.length > 0);
  return (
    <table className="w-full" aria-label="What differs">
      <thead>
        <tr className="text-left text-xs text-soft">
          <th className="pb-1 font-medium"> </th>
          <th className="pb-1 font-medium text-terracotta">{name}</th>
          <th className="pb-1 font-medium">{p.nowName}</th>
        </tr>
      </thead>
      {groups.map((g) => (
        <tbody key={g.of}>
          <tr>
            <th colSpan={3} className="pt-3 pb-1 text-left font-display font-semibold">
              {HEADS[g.of]}
            </th>
          </tr>
          {g.lines.map((d) => (
            <tr key={`${d.what} ${d.then}`} className="border-t border-line align-top">
              <td className="py-1 pr-2 text-soft">{d.what}</td>
              <td className="py-1 pr-2">{said(d.then ?? "none")}</td>
              <td className={d.then === d.now ? "py-1 text-soft" : "py-1 font-semibold"}>
                {d.then === d.now ? "same" : said(d.now ?? "none")}
              </td>
            </tr>
          ))}
        </tbody>
      ))}
    </table>
  );
}
