import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useEffect, useMemo, useState } from "react";
import type { WorkView } from "../../api/generated/WorkView";
import { printerApi, usePrinter } from "../../api/printer";
import { BAR, ToShelf } from "../../ui/bar-parts";
import { fixed } from "../../ui/numbers";
import { PageProblem } from "../../ui/page-problem";
import { PageTools } from "../../ui/page-tools";
import { Panel } from "../../ui/panel";
import { Views } from "../../ui/views";
import { BenchLoading } from "../bench/bench-loading";
import { LayerPlan } from "../print/layer-plan";
import { useExtent } from "../views/frame";
import { Camera } from "./camera";
import { laidOf, measuredOf } from "./laid";
import { PrinterCard } from "./printer-card";

/** The page on which the practice printer is seen at work. */
export function PrinterPage() {
  const { printer, problem, retry, tell } = usePrinter("close");
  const headline = printer?.headline;
  useEffect(() => {
    document.title = headline ? `${headline} · Practice printer · Kachel` : "Practice printer · Kachel";
  }, [headline]);
  if (!printer) return problem ? <PageProblem problem={problem} onRetry={retry} /> : <BenchLoading />;
  return (
    <div className="grid h-full grid-rows-[auto_minmax(0,1fr)] gap-1.5 p-1.5">
      <header className={BAR}>
        <ToShelf />
        <h1 className="font-display text-xl font-semibold">Practice printer</h1>
        <span className="text-sm text-soft">a simulated one, to learn what happens</span>
        {problem && (
          <span role="alert" className="text-sm font-semibold text-terracotta">
            {problem.detail}: what is shown is old
          </span>
        )}
        <span className="ml-auto flex">
          <PageTools />
        </span>
      </header>
      <main className="grid min-h-0">
        <Views names={["At work", "Queue"]} columns="grid-cols-[minmax(0,1fr)_minmax(0,1fr)_330px]">
          <AtWork job={printer.job} isOver={printer.state === "ended"} />
          <PrinterCard printer={printer} tell={tell} />
        </Views>
      </main>
    </div>
  );
}

/** The layer in hand from above, and the print from beside the bed. */
function AtWork({ job, isOver }: { job: WorkView | null; isOver: boolean }) {
  const [above, setAbove] = useState<HTMLDivElement | null>(null);
  const [beside, setBeside] = useState<HTMLDivElement | null>(null);
  const [plan, camera] = [useExtent(above), useExtent(beside)];
  const id = job?.id ?? "";
  const number = job?.layer ?? 0;
  const { data: groups } = useQuery({
    queryKey: ["printer-layer", id, number],
    queryFn: () => printerApi.layer(id, number),
    enabled: number > 0,
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    retry: false,
  });
  const { data: shape } = useQuery({
    queryKey: ["printer-shape", id],
    queryFn: () => printerApi.shape(id),
    enabled: id !== "",
    staleTime: Infinity,
    retry: false,
  });
  const share = job?.share_of_layer ?? 0;
  const here = number > 0 ? groups : undefined;
  // A layer is measured once, and laid again with every look at the printer.
  const measured = useMemo(() => measuredOf(here ?? []), [here]);
  const { laid, nozzle } = useMemo(() => laidOf(measured, share), [measured, share]);
  const bed = job?.bed ?? USUAL;
  const box = { x: 0, y: -bed[1], width: bed[0], height: bed[1] };
  return (
    <>
      <Panel
        title="Layer in hand"
        note={number > 0 ? `${number} of ${job?.layers}, from above` : "from above"}
      >
        <div ref={setAbove} className="absolute inset-0">
          {plan.width > 0 && (
            <LayerPlan
              layer={{ layer: number, groups: laid }}
              ahead={here ?? []}
              box={box}
              isBed
              extent={plan}
              byFilament
            />
          )}
          {!job && <Empty />}
        </div>
      </Panel>
      <Panel title="From beside the bed" note={job && number > 0 ? `${fixed(job.height, 2)} mm high` : ""}>
        <div ref={setBeside} className="absolute inset-0">
          {camera.width > 0 && (
            <Camera
              shape={job ? (shape ?? NOTHING) : NOTHING}
              bed={bed}
              layer={number}
              height={job?.height ?? 0}
              // It is parked beside the bed then.
              nozzle={isOver ? null : nozzle}
              extent={camera}
              words={job ? `${job.name}, ${fixed(job.height, 2)} mm high` : "The empty bed"}
            />
          )}
        </div>
      </Panel>
    </>
  );
}

const USUAL: [number, number] = [220, 220];
const NOTHING: never[] = [];

function Empty() {
  return (
    <p className="absolute inset-x-0 top-1/2 px-8 text-center text-soft">
      Nothing lies on the bed. Send a bed, or a design from its Print station.
    </p>
  );
}
