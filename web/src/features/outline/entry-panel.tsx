import { useState } from "react";
import type { Bench } from "../../api/bench";
import type { Change } from "../../api/generated/Change";
import type { Entry } from "../../api/generated/Entry";
import { Button } from "../../ui/button";
import { nameOf } from "./change-names";
import { Numbers } from "./numbers";

/** Changes with so much to say that they have a panel of their own, and what their handles on the drawing do. */
const HANDLES: Partial<Record<Change["do"], string>> = {
  text: "On the drawing: drag the ring to move it, the square to size it, the dot beside it to bend it, the dot above to turn it.",
  shape: "On the drawing: drag the ring to move it, the squares to size it, the dot above to turn it.",
  paste: "On the drawing: drag the ring to move them.",
  place: "On the drawing: drag the patches themselves, or the grips round the chosen ones.",
  repeat: "On the drawing: drag the ring to move the centre.",
  mirror: "On the drawing: drag the ring to move the line.",
};

export const hasPanel = (c: Change): boolean => c.do in HANDLES;

/** The entry whose panel is open: the one that was added last opens by itself. */
export function useOpenEntry(list: readonly Entry[]) {
  const [open, setOpen] = useState<number | null>(null);
  const [known, setKnown] = useState(list);
  if (known !== list) {
    setKnown(list);
    const added = list.filter((e) => !known.some((k) => k.id === e.id));
    const [one] = added;
    // What was moved is seen on the drawing; who opens it wants the numbers.
    if (added.length === 1 && one && hasPanel(one.change) && one.change.do !== "place") setOpen(one.id);
  }
  const entry = list.find((e) => e.id === open && e.is_on) ?? null;
  return { entry, setOpen };
}

/** All that an entry of the list of changes can be told, with room for it. */
export function EntryPanel(p: { bench: Bench; entry: Entry; onNodes: () => void; onClose: () => void }) {
  const { change } = p.entry;
  const name = nameOf(change);
  return (
    <section
      aria-label={`Change: ${name}`}
      data-entry={change.do}
      className="flex max-h-[70%] flex-none flex-col rounded-tile bg-tile"
    >
      <header className="flex items-center gap-2 px-4 pt-3 pb-1">
        <h2 className="min-w-0 flex-1 truncate font-display text-[15px] font-semibold">{name}</h2>
        <Button className="text-xs" onClick={p.onClose}>
          Done
        </Button>
      </header>
      <div className="min-h-0 flex-1 overflow-y-auto px-4 pb-3 [&_input[type=number]]:w-[72px] [&_label]:text-sm">
        <p className="pb-1.5 text-xs text-soft">{HANDLES[change.do]}</p>
        <Numbers bench={p.bench} entry={p.entry} onNodes={p.onNodes} />
      </div>
    </section>
  );
}
