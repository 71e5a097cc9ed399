import { useEffect } from "react";
import { useLocation } from "wouter";
import { useBench } from "../../api/bench";
import { fetchRest, STATION_PARTS } from "../../parts";
import { STATIONS, type Station, useInterface } from "../../state/interface";
import { undoKey } from "../../ui/bar-parts";
import { isTyping } from "../../ui/help";
import { PageProblem } from "../../ui/page-problem";
import { PartOf } from "../../ui/part";
import { useStill } from "../../ui/use-still";
import { Belt } from "./belt";
import { BenchLoading, StationComing } from "./bench-loading";
import { Hint } from "./hint";
import { TopBar } from "./top-bar";

/** So long after the bench is there all else is fetched, ms: by then the station that is shown has come. */
const REST_MS = 1000;

function useRest(isThere: boolean) {
  useEffect(() => {
    if (!isThere) return;
    const waits = setTimeout(() => void fetchRest(), REST_MS);
    return () => clearTimeout(waits);
  }, [isThere]);
}

/** The page on which one design is worked on. */
export function BenchPage({ id, station }: { id: string; station: Station }) {
  const { bench, problem, reload } = useBench(id);
  const [, go] = useLocation();
  const flip = useInterface((s) => s.flip);
  const name = bench?.design.document.name;
  // What a hand moves is drawn first; the bar and the miniatures follow.
  const still = useStill(bench);

  useRest(bench !== null);

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
  return (
    <div className="grid h-full grid-rows-[auto_auto_minmax(0,1fr)] gap-1.5 p-1.5 narrow:gap-1 narrow:p-1">
      <TopBar bench={still ?? bench} />
      <Belt bench={still ?? bench} station={station} />
      <div className="flex min-h-0 min-w-0 flex-col gap-1.5">
        <Hint id={id} station={station} />
        <main className="grid min-h-0 flex-1">
          <PartOf part={STATION_PARTS[station]} given={{ bench }} coming={<StationComing />} />
        </main>
      </div>
    </div>
  );
}
