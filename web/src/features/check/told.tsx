import clsx from "clsx";
import type { Bench } from "../../api/bench";
import type { FindingView } from "../../api/generated/FindingView";
import type { MendsView } from "../../api/generated/MendsView";
import type { PlaceView } from "../../api/generated/PlaceView";
import { useInterface } from "../../state/interface";
import { Button } from "../../ui/button";
import { said } from "../../ui/numbers";
import { sectionThrough } from "../views/crossings";
import { MendButton } from "./mend-button";

/** Lets the section run through a place. */
export function goTo(bench: Bench, place: PlaceView) {
  const through = sectionThrough(place.path);
  if (through === null) return;
  useInterface.setState({ turned: 0 });
  bench.cut(through, true);
}

/** How much a finding weighs: told by words, form and colour. */
const WEIGHTS = {
  fault: {
    words: "Cannot be printed or used like this",
    look: "border-terracotta bg-terracotta",
    text: "text-terracotta",
  },
  poor: { words: "Will look or work poorly", look: "border-terracotta", text: "text-terracotta" },
  note: { words: "Worth knowing", look: "border-edge", text: "text-soft" },
} as const;

/** A finding: what, why, how it is mended; or that it is known and stays as it is. */
export function Told({
  bench,
  finding: f,
  index,
  tried,
}: {
  bench: Bench;
  finding: FindingView;
  index: number;
  tried: MendsView | null;
}) {
  const { finding, place, pointFinding } = useInterface();
  const point = (is: boolean) => pointFinding(is ? index : null, is && finding === index ? place : null);
  const count = f.places.length;
  const step = (by: number) => {
    const next = ((place === null || finding !== index ? (by > 0 ? -1 : 0) : place) + by + count) % count;
    const at = f.places[next];
    if (!at) return;
    pointFinding(index, next);
    goTo(bench, at);
  };
  const isUseless = (k: number) => tried?.useless.some(([i, m]) => i === index && m === k) ?? false;
  const { code } = f;
  const own = { code, figures: f.figures.map((g) => g.value), places: f.places.length };
  return (
    <li
      className={clsx("border-t border-line py-2.5", finding === index && "bg-sunk")}
      onPointerEnter={() => point(true)}
      onPointerLeave={() => point(false)}
      data-code={code}
    >
      <div className="flex items-start gap-3">
        <span className={clsx("mt-1 size-2.5 flex-none rounded-full border-2", WEIGHTS[f.weight].look)} />
        {/* A button, so that findings without a mend are reached by keyboard too: it shows the place. */}
        <button
          type="button"
          className="min-w-0 flex-1 cursor-default rounded-xs text-left"
          onFocus={() => point(true)}
          onBlur={() => point(false)}
          onClick={() => (count > 0 ? step(1) : point(true))}
          onKeyDown={(e) => {
            const by = e.key === "ArrowRight" ? 1 : e.key === "ArrowLeft" ? -1 : 0;
            if (by === 0 || count === 0) return;
            e.preventDefault();
            step(by);
          }}
        >
          <span className="block text-sm font-semibold">{said(f.what)}</span>
          <span className={clsx("block text-xs", WEIGHTS[f.weight].text)}>{WEIGHTS[f.weight].words}</span>
          <span className="block text-xs text-soft">{said(f.why)}</span>
          {count > 1 && (
            <span className="block text-xs text-glaze" data-testid="place">
              {finding === index && place !== null ? `place ${place + 1} of ${count}` : `${count} places`}:
              arrow keys go through them
            </span>
          )}
        </button>
      </div>
      <div className="flex flex-wrap gap-1 pt-1.5 pl-[22px]">
        {f.mends.map((m, k) =>
          isUseless(k) ? null : (
            <MendButton key={m.words} bench={bench} words={m.words} edits={m.edits} onPoint={point} />
          ),
        )}
        <Button
          look="plain"
          className="border-transparent text-xs text-soft"
          title={
            f.is_accepted
              ? "It counts again"
              : "It is folded away until its figures change by more than a tenth"
          }
          onClick={() =>
            bench.change([
              f.is_accepted ? { kind: "tell-finding", code } : { kind: "accept-finding", finding: own },
            ])
          }
        >
          {f.is_accepted ? "Tell me again" : "I know"}
        </Button>
      </div>
    </li>
  );
}
