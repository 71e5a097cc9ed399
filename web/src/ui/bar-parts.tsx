import { Link } from "wouter";
import { useAway } from "../state/away";
import { Button } from "./button";
import { Icon, Mark } from "./icons";
import { timeOfDay } from "./numbers";
import { Tip } from "./tip";

/** The bar at the top of a page; where it is narrow, it goes on below. */
export const BAR =
  "flex min-h-13 min-w-0 items-center gap-3 rounded-tile bg-tile pr-2 pl-3 narrow:min-h-11 low:min-h-9 narrow:flex-wrap narrow:gap-x-2 narrow:gap-y-1 narrow:py-1";

/** The way to the shelf. */
export function ToShelf() {
  return (
    <Tip words="To the shelf">
      <Link href="/" aria-label="To the shelf" className="flex-none">
        <Mark />
      </Link>
    </Tip>
  );
}

/** The way to the shelf, the name of what is open, and when it was saved. */
export function WorkTitle(p: { name: string; version: number; savedAt: string; onRename: () => void }) {
  return (
    <>
      <ToShelf />
      <h1 className="contents">
        <Tip words="Rename">
          <button
            type="button"
            onClick={p.onRename}
            className="max-w-72 min-w-0 shrink truncate rounded-tile px-1 font-display text-xl font-semibold hover:text-glaze narrow:max-w-40 narrow:text-base"
            aria-label={`Name: ${p.name}. Rename`}
          >
            {p.name}
          </button>
        </Tip>
      </h1>
      <Saved at={timeOfDay(p.savedAt)} version={p.version} />
    </>
  );
}

/** When all was saved, or how many changes wait for the server. */
function Saved(p: { at: string; version: number }) {
  const { isAway, waiting, isCatchingUp } = useAway();
  if (isCatchingUp) {
    return (
      <span className="text-sm text-soft" role="status">
        the server is back: saving…
      </span>
    );
  }
  if (!isAway) {
    return (
      <span className="text-sm text-soft narrow:sr-only" data-version={p.version}>
        saved {p.at}
      </span>
    );
  }
  const changes = waiting === 0 ? "" : waiting === 1 ? ": 1 change waits" : `: ${waiting} changes wait`;
  return (
    <span
      className="text-sm font-semibold text-terracotta"
      data-version={p.version}
      role="status"
      title="Kachel's server does not answer. Start it again; what you change meanwhile is kept on this page and saved then."
    >
      The server is away{changes}
    </span>
  );
}

/** What can be taken back and brought back, by the words of the change. */
export function UndoRedo(p: {
  undo: string | null;
  redo: string | null;
  isSaving: boolean;
  onUndo: () => void;
  onRedo: () => void;
}) {
  const canUndo = p.undo !== null || p.isSaving;
  return (
    <>
      <Tip words={canUndo ? `Undo: ${p.undo ?? "what is being saved"}` : null} keys="Ctrl Z">
        <Button look="bare" aria-label="Undo" why={!canUndo && "Nothing to undo"} onClick={p.onUndo}>
          <Icon name="undo" />
        </Button>
      </Tip>
      <Tip words={p.redo ? `Redo: ${p.redo}` : null} keys="Ctrl Shift Z">
        <Button look="bare" aria-label="Redo" why={!p.redo && "Nothing to redo"} onClick={p.onRedo}>
          <Icon name="redo" />
        </Button>
      </Tip>
    </>
  );
}

/** What a key takes back or brings back. */
export function undoKey(e: KeyboardEvent): "undo" | "redo" | null {
  if (!(e.ctrlKey || e.metaKey)) return null;
  const key = e.key.toLowerCase();
  if (key === "y" || (key === "z" && e.shiftKey)) return "redo";
  return key === "z" ? "undo" : null;
}
