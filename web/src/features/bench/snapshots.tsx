import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Dialog } from "radix-ui";
import { type ReactNode, useState } from "react";
import { useLocation } from "wouter";
import type { Bench } from "../../api/bench";
import { api, type Beside, keptUrl, refusal, stepUrl } from "../../api/client";
import { Button } from "../../ui/button";
import { Choice } from "../../ui/choice";
import { DialogFrame } from "../../ui/dialog";
import { when } from "../../ui/numbers";
import { Compare } from "./compare";
import { Miniature } from "./miniature";

/** A state that can be laid beside the present one: one that was kept, or a step of undo. */
type Chosen = { kept: string; words: string } | { step: number; words: string };

const NOW = "now";

const nameOf = (c: Chosen) => ("step" in c ? `step ${c.step}` : c.kept);

/** What a state gives, laid beside another or beside the present one. */
function asked(id: string, of: Chosen | null, other: Chosen | null) {
  const beside: Beside =
    other === null ? {} : "step" in other ? { step: String(other.step) } : { kept: other.kept };
  if (of && "step" in of) return api.atStep(id, of.step, beside);
  return api.kept(id, of?.kept ?? "", beside);
}

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
  // What the chosen one is laid beside: what is on the bench, or any other.
  const [beside, setBeside] = useState<Chosen | null>(null);
  const stateOf = (of: Chosen | null, other: Chosen | null) => ({
    queryKey: ["state", id, version, of, other],
    queryFn: () => asked(id, of, other),
    enabled: of !== null,
    retry: false,
  });
  const { data: state, error } = useQuery(stateOf(chosen, beside));
  const { data: other } = useQuery(stateOf(beside, null));
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
  const states: Chosen[] = [
    ...(all ?? []).map((s) => ({ kept: s.id, words: s.name })),
    ...earlier.map((s) => ({ step: s.number, words: `After: ${s.label}` })),
  ];
  const choose = (to: Chosen) => {
    setChosen(to);
    if (beside && nameOf(beside) === nameOf(to)) setBeside(null);
  };
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
            act(api.keep(id, name || when(new Date())).then(() => setName("")));
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
                picture={keptUrl(id, s.id)}
                onChoose={() => choose({ kept: s.id, words: s.name })}
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
                    picture={stepUrl(id, s.number, s.created_at)}
                    onChoose={() => choose({ step: s.number, words: `After: ${s.label}` })}
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
            <div className="pb-2">
              <Choice
                label="Laid beside"
                value={beside ? nameOf(beside) : NOW}
                options={[
                  { name: NOW, label: "what is on the bench" },
                  ...states
                    .filter((s) => nameOf(s) !== nameOf(chosen))
                    .map((s) => ({ name: nameOf(s), label: s.words })),
                ]}
                onChoose={(name) => setBeside(states.find((s) => nameOf(s) === name) ?? null)}
              />
            </div>
            {beside && !other ? (
              <p className="m-auto text-sm text-soft">Working it out…</p>
            ) : (
              <Compare
                now={other?.result ?? bench.result}
                nowName={beside?.words ?? "now"}
                then={state}
                name={chosen.words}
                unit={bench.design.document.unit}
              />
            )}
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

function State(p: {
  words: string;
  note: ReactNode;
  /** Its plan. */
  picture: string;
  isChosen: boolean;
  onChoose: () => void;
}) {
  return (
    <li>
      <button
        type="button"
        aria-pressed={p.isChosen}
        onClick={p.onChoose}
        className={`flex w-full items-center gap-2 rounded-tile px-2 py-1.5 text-left hover:bg-sunk ${p.isChosen ? "bg-sunk shadow-[inset_3px_0_0_var(--glaze)]" : ""}`}
      >
        <Miniature src={p.picture} />
        <span className="min-w-0 flex-1">
          <span className="block truncate text-sm font-semibold">{p.words}</span>
          <span className="block text-xs text-soft">{p.note}</span>
        </span>
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
