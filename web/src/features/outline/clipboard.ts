import type { Bench } from "../../api/bench";
import { api } from "../../api/client";
import type { Change } from "../../api/generated/Change";
import { useNotices } from "../../state/notices";

/** Patches that were copied, for any design in this browser. */
const CLIPBOARD = "kachel-patches";

export function copyPatches(bench: Bench, chosen: readonly number[]) {
  const { say } = useNotices.getState();
  void api
    .copy(bench.design.id, chosen)
    .then((change) => {
      localStorage.setItem(CLIPBOARD, JSON.stringify({ from: bench.design.id, change }));
      say({
        text: `${chosen.length} copied`,
        hint: "Paste it here or in another design.",
        isBad: false,
        action: null,
      });
    })
    .catch(() => undefined);
}

/** In the same design beside where they were, in another one on its middle. */
export function pastePatches(bench: Bench) {
  const { say } = useNotices.getState();
  try {
    const { from, change } = JSON.parse(localStorage.getItem(CLIPBOARD) ?? "") as {
      from: string;
      change: Change;
    };
    if (change.do !== "paste") throw new Error();
    const o = bench.result.outline;
    const beside = 5 / (o?.mm_per_px ?? 1);
    const at: [number, number] =
      from === bench.design.id || !o
        ? [change.at[0] + beside, change.at[1] + beside]
        : [o.origin[0], o.origin[1]];
    bench.change([{ kind: "add-change", change: { ...change, at } }]);
  } catch {
    say({
      text: "Nothing was copied yet",
      hint: "Choose patches and copy them first.",
      isBad: true,
      action: null,
    });
  }
}
