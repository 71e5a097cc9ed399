import { useEffect } from "react";
import { useLocation } from "wouter";
import { useBench } from "../../api/bench";
import { STATIONS, type Station, useInterface } from "../../state/interface";
import { undoKey } from "../../ui/bar-parts";
import { isTyping } from "../../ui/help";
import { PageProblem } from "../../ui/page-problem";
import { useCalmed } from "../../ui/use-calmed";
import { Artwork } from "../artwork/artwork";
import { Check } from "../check/check";
import { Outline } from "../outline/outline";
import { Print } from "../print/print";
import { Tiers } from "../tiers/tiers";
import { Belt } from "./belt";
import { BenchLoading } from "./bench-loading";
import { Hint } from "./hint";
import { TopBar } from "./top-bar";

const STATION_PAGES = { artwork: Artwork, outline: Outline, tiers: Tiers, check: Check, print: Print };

/** While a handle is held, the bar and the belt follow so often. */
const BELT_EVERY_MS = 300;

/** The page on which one design is worked on. */
export function BenchPage({ id, station }: { id: string; station: Station }) {
  const { bench, problem, reload } = useBench(id);
  const [, go] = useLocation();
  const flip = useInterface((s) => s.flip);
  const name = bench?.design.document.name;
  // What a hand moves is drawn first; the bar and the miniatures follow.
  const isDragging = useInterface((s) => s.isDragging);
  const calm = useCalmed(bench, isDragging ? BELT_EVERY_MS : 0);

  useEffect(() => {
    document.title = name ? `${name} · Kachel` : "Kachel";
  }, [name]);

  useEffect(() => {
    const press = (e: KeyboardEvent) => {
      if (e.defaultPrevented || isTyping(e) || document.querySelector("[role=dialog],[role=menu]")) return;
      const key = e.key.toLowerCase();
      const step = undoKey(e);
      if (step) bench?.[step]();
      else if (e.ctrlKey || e.metaKey || e.altKey) return;
      else if (STATIONS[Number(e.key) - 1]) go(`/design/${id}/${STATIONS[Number(e.key) - 1]}`);
      else if (key === "m") flip();
      else return;
      e.preventDefault();
    };
    addEventListener("keydown", press);
    return () => removeEventListener("keydown", press);
  }, [bench, flip, go, id]);

  if (problem && !bench) {
    return <PageProblem problem={problem.problem} onRetry={reload} />;
  }
  if (!bench) {
    return <BenchLoading />;
  }
  const Page = STATION_PAGES[station];
  return (
    <div className="grid h-full grid-rows-[auto_auto_minmax(0,1fr)] gap-1.5 p-1.5 narrow:gap-1 narrow:p-1">
      <TopBar bench={calm ?? bench} />
      <Belt bench={calm ?? bench} station={station} />
      <div className="flex min-h-0 min-w-0 flex-col gap-1.5">
        <Hint id={id} station={station} />
        <main className="grid min-h-0 flex-1">
          <Page bench={bench} />
        </main>
      </div>
    </div>
  );
}
