import { useEffect } from "react";
import { useLocation } from "wouter";
import { useBench } from "../../api/bench";
import { STATIONS, type Station, useInterface } from "../../state/interface";
import { undoKey } from "../../ui/bar-parts";
import { isTyping } from "../../ui/help";
import { PageProblem } from "../../ui/page-problem";
import { Artwork } from "../artwork/artwork";
import { Check } from "../check/check";
import { Outline } from "../outline/outline";
import { Print } from "../print/print";
import { Tiers } from "../tiers/tiers";
import { Belt } from "./belt";
import { BenchLoading } from "./bench-loading";
import { TopBar } from "./top-bar";

const STATION_PAGES = { artwork: Artwork, outline: Outline, tiers: Tiers, check: Check, print: Print };

/** The page on which one design is worked on. */
export function BenchPage({ id, station }: { id: string; station: Station }) {
  const { bench, problem, reload } = useBench(id);
  const [, go] = useLocation();
  const flip = useInterface((s) => s.flip);
  const name = bench?.design.document.name;

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
    <div className="grid h-full grid-rows-[52px_104px_minmax(0,1fr)] gap-1.5 p-1.5">
      <TopBar bench={bench} />
      <Belt bench={bench} station={station} />
      <main className="grid min-h-0">
        <Page bench={bench} />
      </main>
    </div>
  );
}
