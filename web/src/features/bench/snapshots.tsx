import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Dialog } from "radix-ui";
import { useState } from "react";
import { useLocation } from "wouter";
import type { Bench } from "../../api/bench";
import { api, refusal } from "../../api/client";
import type { ResultView } from "../../api/generated/ResultView";
import type { Unit } from "../../api/generated/Unit";
import { Button } from "../../ui/button";
import { DialogFrame } from "../../ui/dialog";
import { rough, withUnit } from "../../ui/length";
import { planBox } from "../views/plan";
import { TierShapes } from "../views/tier-shapes";

/** Kept states of the design: name one, compare it with what is on the bench, go back, or start a design from it. */
export function Snapshots({ bench, onClose }: { bench: Bench; onClose: () => void }) {
  const id = bench.design.id;
  const cache = useQueryClient();
  const [, go] = useLocation();
  const key = ["snapshots", id];
  const { data } = useQuery({ queryKey: key, queryFn: () => api.snapshots(id) });
  const [name, setName] = useState("");
  const [refused, setRefused] = useState<string | null>(null);
  const [chosen, setChosen] = useState<string | null>(null);
  const { data: kept } = useQuery({
    queryKey: ["snapshot", id, chosen],
    queryFn: () => api.kept(id, chosen ?? ""),
    enabled: chosen !== null,
  });
  const act = (what: Promise<unknown>) =>
    void what.then(
      () => cache.invalidateQueries({ queryKey: key }),
      (e: unknown) => setRefused(refusal(e)),
    );
  return (
    <DialogFrame
      onClose={onClose}
      className="top-[7vh] grid h-[80vh] w-[min(980px,96vw)] grid-cols-[300px_minmax(0,1fr)]"
    >
      <div className="flex min-h-0 flex-col border-r border-line p-4">
        <Dialog.Title className="pb-2 font-display text-lg font-semibold">Snapshots</Dialog.Title>
        <form
          className="flex gap-1.5 pb-3"
          onSubmit={(e) => {
            e.preventDefault();
            setRefused(null);
            act(api.keep(id, name || new Date().toLocaleString("en-GB")).then(() => setName("")));
          }}
        >
          <input
            aria-label="Name of the snapshot"
            placeholder="Name it"
            value={name}
            onChange={(e) => setName(e.target.value)}
            className="min-w-0 flex-1 rounded-tile border border-edge bg-field px-2 py-1 text-sm"
          />
          <Button look="solid" type="submit">
            Keep
          </Button>
        </form>
        {refused && (
          <p role="alert" className="pb-2 text-sm text-terracotta">
            {refused}
          </p>
        )}
        <ul className="min-h-0 flex-1 overflow-y-auto">
          {data?.map((s) => (
            <li key={s.id}>
              <button
                type="button"
                aria-pressed={s.id === chosen}
                onClick={() => setChosen(s.id)}
                className={`w-full rounded-tile px-2 py-1.5 text-left hover:bg-sunk ${s.id === chosen ? "bg-sunk shadow-[inset_3px_0_0_var(--glaze)]" : ""}`}
              >
                <span className="block truncate text-sm font-semibold">{s.name}</span>
                <span className="block text-xs text-soft">
                  {s.recipe} ·{" "}
                  {new Date(s.created_at).toLocaleString("en-GB", {
                    dateStyle: "medium",
                    timeStyle: "short",
                  })}
                </span>
              </button>
            </li>
          ))}
          {data?.length === 0 && (
            <li className="text-sm text-soft">
              Nothing kept yet. A snapshot is a state to go back to, or to compare with.
            </li>
          )}
        </ul>
      </div>
      <div className="flex min-h-0 flex-col p-4">
        {kept && chosen ? (
          <>
            <Compare
              now={bench.result}
              then={kept.result}
              name={kept.snapshot.name}
              unit={bench.design.document.unit}
            />
            <div className="flex gap-2 pt-3">
              <Button
                look="solid"
                onClick={() => {
                  bench.goBack(chosen);
                  onClose();
                }}
              >
                Go back to it
              </Button>
              <Button
                onClick={() =>
                  void api.branch(id, chosen).then((d) => {
                    onClose();
                    go(`/design/${d.id}/tiers`);
                  })
                }
              >
                New design from it
              </Button>
              <Button
                className="ml-auto"
                onClick={() => {
                  setChosen(null);
                  act(api.forget(id, chosen));
                }}
              >
                Forget it
              </Button>
            </div>
          </>
        ) : (
          <p className="m-auto max-w-72 text-center text-sm text-soft">
            Choose a snapshot to lay it over what is on the bench.
          </p>
        )}
      </div>
    </DialogFrame>
  );
}

/** Plan over plan, and what differs. */
function Compare({ now, then, name, unit }: { now: ResultView; then: ResultView; name: string; unit: Unit }) {
  const [a, b] = [planBox(now), planBox(then)];
  const side = Math.max(a.width, b.width, a.height, b.height) * 1.1;
  const differ = then.measures.flatMap((m) => {
    const mine = now.measures.find((n) => n.name === m.name);
    if (!mine || mine.value === m.value) return [];
    const words = (v: number) => m.options[v]?.label ?? (m.is_length ? withUnit(v, unit, 1) : String(v));
    return [{ name: `${m.group}, ${m.label.toLowerCase()}`, was: words(m.value), now: words(mine.value) }];
  });
  const facts = [
    ["Recipe", then.recipe, now.recipe],
    ["Size", sizeOf(then, unit), sizeOf(now, unit)],
    ["Volume", volumeOf(then), volumeOf(now)],
  ];
  return (
    <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_260px] gap-4">
      <svg
        viewBox={`${-side / 2} ${-side / 2} ${side} ${side}`}
        className="h-full w-full rounded-tile bg-sunk"
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
      <div className="min-h-0 overflow-y-auto text-sm">
        <table className="w-full">
          <thead>
            <tr className="text-left text-xs text-soft">
              <th className="pb-1 font-medium"> </th>
              <th className="pb-1 font-medium text-terracotta">{name}</th>
              <th className="pb-1 font-medium">now</th>
            </tr>
          </thead>
          <tbody>
            {facts.map(([what, was, now]) => (
              <tr key={what} className="border-t border-line align-top">
                <td className="py-1 pr-2 text-soft">{what}</td>
                <td className="py-1 pr-2">{was}</td>
                <td className={was === now ? "py-1 text-soft" : "py-1 font-semibold"}>
                  {was === now ? "same" : now}
                </td>
              </tr>
            ))}
            {differ.map((d) => (
              <tr key={d.name} className="border-t border-line align-top">
                <td className="py-1 pr-2 text-soft">{d.name}</td>
                <td className="py-1 pr-2">{d.was}</td>
                <td className="py-1 font-semibold">{d.now}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </div>
  );
}

function sizeOf(r: ResultView, unit: Unit): string {
  return r.solid ? `${r.solid.size.map((v) => rough(v, unit)).join(" × ")} ${unit}` : "no solid";
}

function volumeOf(r: ResultView): string {
  return r.solid ? `${(r.solid.volume / 1000).toFixed(2)} cm³` : "none";
}
