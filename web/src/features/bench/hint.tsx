import { Link } from "wouter";
import { HINTS, type HintName, useHints } from "../../state/hints";
import type { Station } from "../../state/interface";
import { Button } from "../../ui/button";
import { Icon } from "../../ui/icons";

/** What is said, and where it goes on. */
const SAID: Record<HintName, { words: string; on: { to: Station; words: string } | null }> = {
  artwork: {
    words: "The line over your picture is what will be made. Move Threshold until it follows what you want.",
    on: { to: "tiers", words: "On to Tiers" },
  },
  tiers: {
    words: "Choose what it becomes under Recipe. Drag a height in the section, or type a measure.",
    on: { to: "print", words: "On to Print" },
  },
  print: {
    words: "How long it takes and how much filament. Take 3MF home: your slicer opens it.",
    on: null,
  },
};

const isHint = (s: Station): s is HintName => (HINTS as readonly string[]).includes(s);

/** One sentence for somebody new, at three stations, once each. */
export function Hint({ id, station }: { id: string; station: Station }) {
  const { read, close } = useHints();
  if (read === null || !isHint(station) || read.includes(station)) return null;
  const { words, on } = SAID[station];
  return (
    <aside
      aria-label="Hint"
      className="flex flex-wrap items-center gap-x-3 gap-y-1 rounded-tile bg-celadon px-3 py-1.5 text-sm text-[#0c2a2f]"
    >
      <span className="text-xs font-semibold">
        {HINTS.indexOf(station) + 1} of {HINTS.length}
      </span>
      <span className="min-w-0 flex-1">{words}</span>
      {on && (
        <Link
          href={`/design/${id}/${on.to}`}
          onClick={() => close(station)}
          className="rounded-tile bg-[#0c2a2f] px-2.5 py-1 font-semibold text-[#faf7f1]"
        >
          {on.words}
        </Link>
      )}
      <button type="button" className="font-semibold underline" onClick={() => close("all")}>
        No hints
      </button>
      <Button
        look="bare"
        className="text-[#0c2a2f]"
        aria-label="Close the hint"
        onClick={() => close(station)}
      >
        <Icon name="close" className="size-4" />
      </Button>
    </aside>
  );
}
