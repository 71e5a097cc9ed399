import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Dialog } from "radix-ui";
import { useRef, useState } from "react";
import { ApiProblem, api, refusal } from "../../api/client";
import { complain } from "../../api/complain";
import { MEMBERS, useMembers } from "../../api/members";
import { SHELF } from "../../api/shelf-query";
import { useWorkshop } from "../../api/workshop";
import { AskField } from "../../ui/ask-field";
import { Button } from "../../ui/button";
import { Choice } from "../../ui/choice";
import { DialogFrame } from "../../ui/dialog";
import { usePutOnBed } from "./beds";
import { ManyRow, type State } from "./many-row";

/** House measures are told from recipes by this before their names. */
const HOUSE = "house ";

/** Several pictures become designs of one recipe; broken ones say why, and the others go on. */
export function ManyPictures(p: { files: readonly File[]; onClose: (made: string[]) => void }) {
  const { files } = p;
  const cache = useQueryClient();
  const put = usePutOnBed();
  const { data: recipes } = useQuery({ queryKey: ["recipes"], queryFn: api.recipes, staleTime: Infinity });
  const houses = useWorkshop()?.workshop.houses;
  const [recipe, setRecipe] = useState("key-tag");
  const [longest, setLongest] = useState("");
  const [states, setStates] = useState<readonly State[]>(() => files.map(() => "waits"));
  const [isRunning, setRunning] = useState(false);
  const isStopped = useRef(false);
  const made = states.flatMap((s) => (typeof s === "object" && "made" in s ? [s.made] : []));
  const [limit, setLimit] = useState("");
  const members = useMembers(
    states.map((s) => (typeof s === "object" && "made" in s ? s.made : "")),
    limit,
    !isRunning,
  );
  const over = members.filter((m) => m.data?.made?.is_over).length;
  const wrong = members.find(
    (m) => m.error instanceof ApiProblem && m.error.problem.code === "no-time",
  )?.error;
  const refused = states.filter((s) => typeof s === "object" && "why" in s).length;
  const isDone = made.length + refused === files.length;
  const set = (n: number, state: State) => setStates((now) => now.map((s, k) => (k === n ? state : s)));

  async function start() {
    setRunning(true);
    for (const [n, file] of files.entries()) {
      if (isStopped.current) break;
      set(n, "reads");
      try {
        const what = recipe.startsWith(HOUSE) ? { house: recipe.slice(HOUSE.length) } : { recipe };
        const as = { ...what, ...(longest.trim() === "" ? {} : { longest }) };
        const { id, version } = await api.upload(file, as);
        set(n, { made: id, version });
      } catch (e) {
        set(n, { why: refusal(e) });
      }
    }
    setRunning(false);
    void cache.invalidateQueries({ queryKey: SHELF });
  }
  /** Makes what takes too long the size that keeps the limit. */
  async function shrink() {
    setRunning(true);
    for (const [n, state] of states.entries()) {
      const edits = members[n]?.data?.made?.edits ?? [];
      if (isStopped.current) break;
      if (typeof state !== "object" || !("made" in state) || edits.length === 0) continue;
      try {
        set(n, { made: state.made, version: (await api.edit(state.made, state.version, edits)).version });
      } catch (e) {
        complain(e);
      }
    }
    setRunning(false);
    void cache.invalidateQueries({ queryKey: MEMBERS });
  }
  const close = () => {
    isStopped.current = true;
    p.onClose(made);
  };

  return (
    <DialogFrame onClose={close} className="top-[8vh] w-[min(720px,94vw)] p-5">
      <Dialog.Title className="pb-1 font-display text-lg font-semibold">
        {files.length} pictures, one kind of object
      </Dialog.Title>
      <p className="pb-3 text-sm text-soft">
        Each becomes a design of its own on the shelf, named after its file.
      </p>
      <Choice
        label="What they become"
        value={recipe}
        options={[
          ...(houses ?? []).map((h) => ({ name: `${HOUSE}${h.name}`, label: h.name })),
          ...(recipes?.map((r) => ({ name: r.kind, label: r.label })) ?? []),
        ]}
        onChoose={setRecipe}
      />
      <label className="flex items-center gap-2 py-[3px] text-sm">
        <span className="flex-1">Longest side at most</span>
        <input
          value={longest}
          onChange={(e) => setLongest(e.target.value)}
          placeholder="usual size"
          aria-label="Longest side at most"
          disabled={isRunning || made.length > 0}
          className="w-28 rounded-tile border border-edge bg-field px-2 py-[3px] text-right text-sm"
        />
      </label>
      {made.length > 0 && (
        <AskField
          label="Longest print of each"
          placeholder="no limit"
          disabled={isRunning}
          onAsk={setLimit}
        />
      )}
      {wrong && (
        <p role="alert" className="text-right text-xs text-terracotta">
          {refusal(wrong)}
        </p>
      )}
      <div className="mt-3 max-h-72 overflow-y-auto rounded-tile bg-sunk p-2">
        <table className="w-full border-collapse text-sm" aria-label="Pictures">
          <tbody>
            {files.map((file, n) => (
              <ManyRow
                // biome-ignore lint/suspicious/noArrayIndexKey: two files may have one name
                key={n}
                file={file.name}
                state={states[n] ?? "waits"}
                member={members[n]?.data}
                problem={wrong ? null : (members[n]?.error ?? null)}
              />
            ))}
          </tbody>
        </table>
      </div>
      <div className="flex items-center gap-2 pt-4">
        <span className="text-sm text-soft" role="status">
          {isDone && `${made.length} made${refused > 0 ? `, ${refused} refused` : ""}`}
          {isDone && over > 0 && `, ${over} over the limit`}
          {isRunning && !isDone && `${made.length + refused} of ${files.length}`}
        </span>
        <span className="ml-auto flex gap-2">
          <Button onClick={close}>{isDone ? "To the shelf" : "Stop"}</Button>
          {over > 0 && (
            <Button why={isRunning && "Wait until it has read all"} onClick={() => void shrink()}>
              Make those smaller
            </Button>
          )}
          {isDone ? (
            <Button
              look="solid"
              why={made.length === 0 && "None of them became an object"}
              onClick={() => {
                close();
                void put(made, null);
              }}
            >
              Put all on a bed
            </Button>
          ) : (
            <Button look="solid" why={isRunning && "It reads them now"} onClick={() => void start()}>
              {isRunning ? "Reading…" : "Start"}
            </Button>
          )}
        </span>
      </div>
    </DialogFrame>
  );
}
