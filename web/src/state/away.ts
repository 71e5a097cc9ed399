import { create } from "zustand";
import { useNotices } from "./notices";

/** Whether the server does not answer, and how many changes are not saved yet. */
export const useAway = create<{
  isAway: boolean;
  waiting: number;
  /** Whether it is back, and what waited for it is being saved. */
  isCatchingUp: boolean;
}>(() => ({ isAway: false, waiting: 0, isCatchingUp: false }));

/** Counts changes that are not saved yet. */
export function countWaiting(by: number) {
  useAway.setState((s) => ({ waiting: s.waiting + by, isCatchingUp: s.isCatchingUp && s.waiting + by > 0 }));
}

/** What is said while it does not answer. */
export const AWAY = "The workshop's server does not answer";

/** The server is asked so often whether it is back, ms. */
const EVERY_MS = 1000;

let back: Promise<void> | null = null;

/** Whether it answers, whatever it says. */
export const answers = () =>
  fetch("/api/recipes", { cache: "no-store" }).then(
    () => true,
    () => false,
  );

async function ask() {
  do await new Promise((done) => setTimeout(done, EVERY_MS));
  while (!(await answers()));
}

/** Notes that the server does not answer; the promise is kept when it does again. */
export function untilBack(): Promise<void> {
  useAway.setState({ isAway: true });
  back ??= ask().then(() => {
    back = null;
    useAway.setState((s) => ({ isAway: false, isCatchingUp: s.waiting > 0 }));
    // What was said of it is over.
    useNotices.setState((s) => ({ notices: s.notices.filter((n) => n.text !== AWAY) }));
  });
  return back;
}
