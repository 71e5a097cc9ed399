import { useQuery, useQueryClient } from "@tanstack/react-query";
import clsx from "clsx";
import { Dialog } from "radix-ui";
import { useRef, useState } from "react";
import { api, refusal } from "../../api/client";
import { Button } from "../../ui/button";
import { Choice } from "../../ui/choice";
import { DialogFrame } from "../../ui/dialog";
import { usePutOnBed } from "./beds";
import { SHELF } from "./start";

/** How far a picture is: waiting, being read, a design by its name for the program, or refused with why. */
type State = "waits" | "reads" | { made: string } | { why: string };

/** Several pictures become designs of one recipe; broken ones say why, and the others go on. */
export function ManyPictures(p: { files: readonly File[]; onClose: (made: string[]) => void }) {
  const { files } = p;
  const cache = useQueryClient();
  const put = usePutOnBed();
  const { data: recipes } = useQuery({ queryKey: ["recipes"], queryFn: api.recipes, staleTime: Infinity });
  const [recipe, setRecipe] = useState("key-tag");
  const [longest, setLongest] = useState("");
  const [states, setStates] = useState<readonly State[]>(() => files.map(() => "waits"));
  const [isRunning, setRunning] = useState(false);
  const isStopped = useRef(false);
  const made = states.flatMap((s) => (typeof s === "object" && "made" in s ? [s.made] : []));
  const refused = states.filter((s) => typeof s === "object" && "why" in s).length;
  const isDone = made.length + refused === files.length;
  const set = (n: number, state: State) => setStates((now) => now.map((s, k) => (k === n ? state : s)));

  async function start() {
    setRunning(true);
    for (const [n, file] of files.entries()) {
      if (isStopped.current) break;
      set(n, "reads");
      try {
        const as = { recipe, ...(longest.trim() === "" ? {} : { longest }) };
        set(n, { made: (await api.upload(file, as)).id });
      } catch (e) {
        set(n, { why: refusal(e) });
      }
    }
    setRunning(false);
    void cache.invalidateQueries({ queryKey: SHELF });
  }
  const close = () => {
    isStopped.current = true;
    p.onClose(made);
  };

  return (
    <DialogFrame onClose={close} className="top-[8vh] w-[min(620px,94vw)] p-5">
      <Dialog.Title className="pb-1 font-display text-lg font-semibold">
        {files.length} pictures, one kind of object
      </Dialog.Title>
      <p className="pb-3 text-sm text-soft">
        Each becomes a design of its own on the shelf, named after its file.
      </p>
      <Choice
        label="What they become"
        value={recipe}
        options={recipes?.map((r) => ({ name: r.kind, label: r.label })) ?? []}
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
      <ul className="mt-3 max-h-72 overflow-y-auto rounded-tile bg-sunk p-2" aria-label="Pictures">
        {files.map((file, n) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: two files may have one name
          <li key={n} className="flex gap-3 py-0.5 text-sm">
            <span className="min-w-0 flex-1 truncate">{file.name}</span>
            <Words state={states[n] ?? "waits"} />
          </li>
        ))}
      </ul>
      <div className="flex items-center gap-2 pt-4">
        <span className="text-sm text-soft" role="status">
          {isDone && `${made.length} made${refused > 0 ? `, ${refused} refused` : ""}`}
          {isRunning && `${made.length + refused} of ${files.length}`}
        </span>
        <span className="ml-auto flex gap-2">
          <Button onClick={close}>{isDone ? "To the shelf" : "Stop"}</Button>
          {isDone ? (
            <Button
              look="solid"
              disabled={made.length === 0}
              onClick={() => {
                close();
                void put(made, null);
              }}
            >
              Put all on a bed
            </Button>
          ) : (
            <Button look="solid" disabled={isRunning} onClick={() => void start()}>
              {isRunning ? "Reading…" : "Start"}
            </Button>
          )}
        </span>
      </div>
    </DialogFrame>
  );
}

function Words({ state }: { state: State }) {
  const [words, isBad] =
    state === "waits"
      ? ["", false]
      : state === "reads"
        ? ["reading…", false]
        : "made" in state
          ? ["done", false]
          : [state.why, true];
  return <span className={clsx("max-w-72", isBad ? "text-terracotta" : "text-soft")}>{words}</span>;
}
