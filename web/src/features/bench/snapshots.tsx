import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Dialog } from "radix-ui";
import { type ReactNode, useState } from "react";
import { useLocation } from "wouter";
import type { Bench } from "../../api/bench";
import { api, refusal } from "../../api/client";
import { Button } from "../../ui/button";
import { DialogFrame } from "../../ui/dialog";
import { Compare } from "./compare";

/** A state that can be laid beside the present one: one that was kept, or a step of undo. */
type Chosen = { kept: string; words: string } | { step: number; words: string };

const when = (iso: string) =>
  new Date(iso).toLocaleString("en-GB", { dateStyle: "medium", timeStyle: "short" });

/** Earlier states of the design: name one, compare it with what is on the bench, go back, or start a design from it. */
export function Snapshots({ bench, onClose }: { bench: Bench; onClose: () => void }) {
  const { id, version } = bench.design;
  const cache = useQueryClient();
  const key = ["snapshots", id];
  const { data: all } = useQuery({ queryKey: key, queryFn: () => api.snapshots(id) });
  const { data: steps } = useQuery({ queryKey: ["steps", id, version], queryFn: () => api.steps(id) });
  const [name, setName] = useState("");
  const [refused, setRefused] = useState<string | null>(null);
  const [chosen, setChosen] = useState<Chosen | null>(null);
  const { data: state, error } = useQuery({
    queryKey: ["state", id, version, chosen],
    queryFn: () =>
      chosen && "step" in chosen ? api.atStep(id, chosen.step) : api.kept(id, chosen?.kept ?? ""),
    enabled: chosen !== null,
    retry: false,
  });
  const act = (what: Promise<unknown>) =>
    void what.then(
      () => cache.invalidateQueries({ queryKey: key }),
      (e: unknown) => setRefused(refusal(e)),
    );
  const forget = (kept: string) => {
    setChosen(null);
    act(api.forget(id, kept));
  };
  const present = steps?.find((s) => s.is_present)?.number ?? 0;
  const earlier = steps?.filter((s) => !s.is_present) ?? [];
  return (
    <DialogFrame
      onClose={onClose}
      className="top-[4vh] grid h-[90vh] w-[min(1220px,96vw)] grid-cols-[280px_minmax(0,1fr)] narrow:grid-cols-[minmax(0,1fr)] narrow:grid-rows-[2fr_3fr]"
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
        <div className="min-h-0 flex-1 overflow-y-auto">
          <ul aria-label="Snapshots">
            {all?.map((s) => (
              <State
                key={s.id}
                words={s.name}
                note={`${s.recipe ?? "damaged"} · ${when(s.created_at)}`}
                isChosen={chosen !== null && "kept" in chosen && chosen.kept === s.id}
                onChoose={() => setChosen({ kept: s.id, words: s.name })}
              />
            ))}
            {all?.length === 0 && (
              <li className="text-sm text-soft">
                Nothing kept yet. A snapshot is a state to go back to, or to compare with.
              </li>
            )}
          </ul>
          {earlier.length > 0 && (
            <>
              <h3 className="pt-4 pb-1 font-display text-sm font-semibold">Steps of undo</h3>
              <ul aria-label="Steps of undo">
                {earlier.map((s) => (
                  <State
                    key={s.number}
                    words={`After: ${s.label}`}
                    note={when(s.created_at)}
                    isChosen={chosen !== null && "step" in chosen && chosen.step === s.number}
                    onChoose={() => setChosen({ step: s.number, words: `After: ${s.label}` })}
                  />
                ))}
              </ul>
            </>
          )}
        </div>
      </div>
      <div className="flex min-h-0 flex-col p-4">
        {state && chosen ? (
          <>
            <Compare now={bench.result} then={state} name={chosen.words} unit={bench.design.document.unit} />
            {"step" in chosen && (
              <div className="flex pt-3">
                <Button
                  look="solid"
                  onClick={() => {
                    bench.step(chosen.step - present);
                    onClose();
                  }}
                >
                  Go back to it
                </Button>
              </div>
            )}
            {"kept" in chosen && (
              <ForKept
                bench={bench}
                snapshot={chosen.kept}
                onClose={onClose}
                onForget={() => forget(chosen.kept)}
              />
            )}
          </>
        ) : (
          <div className="m-auto grid max-w-72 justify-items-center gap-3 text-center text-sm text-soft">
            <p role={error ? "alert" : undefined}>
              {error
                ? refusal(error)
                : chosen
                  ? "Working it out…"
                  : "Choose a state to lay it beside what is on the bench."}
            </p>
            {error && chosen && "kept" in chosen && (
              <Button onClick={() => forget(chosen.kept)}>Forget it</Button>
            )}
          </div>
        )}
      </div>
    </DialogFrame>
  );
}

function State(p: { words: string; note: ReactNode; isChosen: boolean; onChoose: () => void }) {
  return (
    <li>
      <button
        type="button"
        aria-pressed={p.isChosen}
        onClick={p.onChoose}
        className={`w-full rounded-tile px-2 py-1.5 text-left hover:bg-sunk ${p.isChosen ? "bg-sunk shadow-[inset_3px_0_0_var(--glaze)]" : ""}`}
      >
        <span className="block truncate text-sm font-semibold">{p.words}</span>
        <span className="block text-xs text-soft">{p.note}</span>
      </button>
    </li>
  );
}

/** What can be done with a kept state. */
function ForKept(p: { bench: Bench; snapshot: string; onClose: () => void; onForget: () => void }) {
  const { bench, snapshot, onClose } = p;
  const [, go] = useLocation();
  return (
    <div className="flex gap-2 pt-3">
      <Button
        look="solid"
        onClick={() => {
          bench.goBack(snapshot);
          onClose();
        }}
      >
        Go back to it
      </Button>
      <Button
        onClick={() =>
          void api.branch(bench.design.id, snapshot).then((d) => {
            onClose();
            go(`/design/${d.id}/tiers`);
          })
        }
      >
        New design from it
      </Button>
      <Button className="ml-auto" onClick={p.onForget}>
        Forget it
      </Button>
    </div>
  );
}
