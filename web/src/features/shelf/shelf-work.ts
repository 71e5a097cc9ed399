import { useQueryClient } from "@tanstack/react-query";
import { refusal } from "../../api/client";
import { useNotices } from "../../state/notices";

/** What is done with things on the shelf: refusals are said, removals can be undone, and the list with this key is asked for anew. */
export function useShelfWork(key: readonly string[]) {
  const cache = useQueryClient();
  const say = useNotices((s) => s.say);
  const refresh = () => cache.invalidateQueries({ queryKey: key });
  const complain = (e: unknown) => say({ text: refusal(e), hint: "", isBad: true, action: null });
  const attempt = (work: Promise<unknown>) => void work.then(refresh, complain);
  /** Says that something is off the shelf; undo brings it back. */
  const sayGone = (what: string, restore: () => Promise<unknown>) =>
    say({
      text: `${what} off the shelf`,
      hint: "",
      isBad: false,
      action: { words: "Undo", run: () => attempt(restore()) },
    });
  return { attempt, complain, refresh, sayGone };
}
