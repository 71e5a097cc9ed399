import { useEffect, useState } from "react";
import { type BedWork, bedApi, useBed, useBedPrint } from "../../api/beds";
import { ApiProblem } from "../../api/client";
import { complain } from "../../api/complain";
import type { BedEdit } from "../../api/generated/BedEdit";
import { SOLIDS } from "../../parts";
import { undoKey } from "../../ui/bar-parts";
import { Button } from "../../ui/button";
import { isTyping } from "../../ui/help";
import { PageProblem } from "../../ui/page-problem";
import { Panel } from "../../ui/panel";
import { PartOf, SettingUp } from "../../ui/part";
import { Views } from "../../ui/views";
import { BenchLoading } from "../bench/bench-loading";
import { LayerSlider } from "../print/layers";
import { useExtent } from "../views/frame";
import { BedBar } from "./bed-bar";
import { BedCard } from "./bed-card";
import { Plate } from "./plate";

/** The page on which a bed is filled. */
export function BedPage({ id }: { id: string }) {
  const { work, problem, reload } = useBed(id);
  const name = work?.bed.document.name;
  useEffect(() => {
    document.title = name ? `${name} · Kachel` : "Kachel";
  }, [name]);
  if (problem && !work) {
    return <PageProblem problem={problem.problem} onRetry={reload} />;
  }
  return work ? <Open work={work} /> : <BenchLoading />;
}

function Open({ work }: { work: BedWork }) {
  const { bed } = work;
  const [plate, setPlate] = useState(0);
  const [view, setView] = useState<"bed" | "layers">("bed");
  const [chosen, setChosen] = useState<readonly number[]>([]);
  const [element, setElement] = useState<HTMLDivElement | null>(null);
  const extent = useExtent(element);
  const count = Math.max(1, bed.result.plates);
  const at = Math.min(plate, count - 1);
  const { data: print, error } = useBedPrint(bed, at);
  // What was taken off, or undone, is no longer chosen.
  const there = chosen.filter((c) => bed.document.pieces.some((q) => q.id === c));
  const commit = (edits: BedEdit[]) => work.commit(edits).catch(complain);

  useEffect(() => {
    const press = (e: KeyboardEvent) => {
      if (e.defaultPrevented || isTyping(e) || document.querySelector("[role=dialog],[role=menu]")) return;
      const step = undoKey(e);
      if (step) work[step]();
      else if (e.key === "Escape" && there.length > 0) setChosen([]);
      else return;
      e.preventDefault();
    };
    addEventListener("keydown", press);
    return () => removeEventListener("keydown", press);
  });

  return (
    <div className="grid h-full grid-rows-[auto_minmax(0,1fr)] gap-1.5 p-1.5">
      <BedBar work={work} plate={at} />
      <main className="grid min-h-0">
        <Views names={["Bed", "What lies on it"]} columns="grid-cols-[minmax(0,1fr)_330px]">
          <Panel
            title={view === "bed" ? "Bed" : "Layers"}
            note={
              view === "bed"
                ? "drag pieces, or use the arrow keys; T turns, Delete takes off"
                : "as the nozzle lays them"
            }
            tools={
              <>
                {count > 1 && (
                  // biome-ignore lint/a11y/useSemanticElements: a set of buttons in a panel's head is no form
                  <span className="flex gap-1 pr-2" role="group" aria-label="Fillings of the bed">
                    {Array.from({ length: count }, (_, n) => n).map((n) => (
                      <Button
                        key={n}
                        className="text-xs aria-pressed:bg-deep aria-pressed:text-on-deep"
                        aria-pressed={n === at}
                        onClick={() => {
                          setPlate(n);
                          setChosen([]);
                        }}
                      >
                        {n + 1}
                      </Button>
                    ))}
                  </span>
                )}
                <Button
                  className="text-xs"
                  why={!print && "Its layers are still being laid"}
                  onClick={() => setView(view === "bed" ? "layers" : "bed")}
                >
                  {view === "bed" ? "Show layers" : "Show the bed"}
                </Button>
              </>
            }
          >
            <div ref={setElement} className="absolute inset-0">
              {view === "layers" && print ? (
                <LayerSlider
                  print={print}
                  unit={bed.result.unit}
                  box={{
                    x: 0,
                    y: -bed.result.size[1],
                    width: bed.result.size[0],
                    height: bed.result.size[1],
                  }}
                  isBed
                  solid={(layer, byFilament) => (
                    <PartOf part={SOLIDS.bed} given={{ bed, layer, byFilament }} coming={<SettingUp />} />
                  )}
                  query={(n) => ({
                    queryKey: ["bed-layer", bed.id, at, print.key, n],
                    queryFn: ({ signal }) => bedApi.layer(bed.id, at, n, print.key, signal),
                  })}
                />
              ) : (
                extent.width > 0 && (
                  <Plate
                    bed={bed}
                    plate={at}
                    extent={extent}
                    chosen={there}
                    onChoose={setChosen}
                    onMove={(places) => void commit([{ kind: "move", places }])}
                    onRemove={(pieces) => void commit([{ kind: "remove", pieces }])}
                  />
                )
              )}
              {bed.document.pieces.length === 0 && (
                <p className="absolute inset-x-0 top-1/2 text-center text-soft">
                  Nothing lies on this bed yet. Press Add designs above.
                </p>
              )}
            </div>
          </Panel>
          <BedCard
            work={work}
            plate={at}
            print={print}
            problem={error instanceof ApiProblem ? error.problem : null}
            chosen={there}
            onChoose={(pieces, on) => {
              setChosen(pieces);
              if (on !== null) setPlate(on);
            }}
            commit={commit}
          />
        </Views>
      </main>
    </div>
  );
}
