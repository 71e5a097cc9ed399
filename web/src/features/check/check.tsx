import clsx from "clsx";
import { useMemo, useState } from "react";
import type { Bench } from "../../api/bench";
import type { FindingView } from "../../api/generated/FindingView";
import type { LookedView } from "../../api/generated/LookedView";
import type { PlaceView } from "../../api/generated/PlaceView";
import { useInterface } from "../../state/interface";
import { Button } from "../../ui/button";
import { Icon } from "../../ui/icons";
import { said } from "../../ui/numbers";
import { Card } from "../../ui/panel";
import { ProblemNote } from "../../ui/problem-note";
import { Views } from "../../ui/views";
import { PlacesInSection } from "../views/places";
import { PlanAndSection } from "../views/plan-and-section";
import { SolidPanel } from "../views/solid-panel";
import { goTo, Told } from "./told";
import { AtOnce, useTriedMends } from "./tried";

const NONE: readonly PlaceView[] = [];

/** What would go wrong, each with its place and, where there is one, the mend. */
export function Check({ bench }: { bench: Bench }) {
  const { result, design } = bench;
  const { finding, place, section, turned } = useInterface();
  const [looked, setLooked] = useState<number | null>(null);
  // A mend that is pointed at is seen in plan; the list stays as it is meanwhile.
  const saved = design.result;
  const { findings, solid: s } = saved;
  const shown = saved.looked[looked ?? -1]?.places ?? NONE;
  // The solid turns to the place that is looked at, else to the first of what is pointed at.
  const look = place ?? (finding === null && looked === null ? null : 0);
  const pointed = findings[finding ?? -1]?.places;
  const marked = useMemo(() => ({ places: [...(pointed ?? []), ...shown], look }), [pointed, shown, look]);
  const tried = useTriedMends(bench);
  const [told, known] = [false, true].map((is) =>
    [...findings.keys()].filter((i) => findings[i]?.is_accepted === is),
  ) as [number[], number[]];
  return (
    <Views names={["Drawings", "Solid", "Findings"]} columns="grid-cols-[minmax(0,1fr)_minmax(0,1fr)_380px]">
      <PlanAndSection
        bench={bench}
        isReading
        finding={finding}
        place={place}
        shown={shown}
        marks={(x, y) => (
          <PlacesInSection
            places={marked.places}
            isMirrored={result.is_mirrored}
            section={section}
            turned={turned}
            x={x}
            y={y}
          />
        )}
      />
      <SolidPanel bench={bench} marked={marked} canUse />
      <Card title="Findings">
        {saved.problem && <ProblemNote problem={saved.problem} />}
        <div className="flex items-center gap-3 pb-3">
          <span
            className={clsx(
              "flex size-9 items-center justify-center rounded-tile",
              s ? "bg-celadon text-[#0c2a2f]" : "bg-blush text-terracotta",
            )}
          >
            <Icon name={s ? "check" : "close"} />
          </span>
          <div>
            <p className="font-display font-semibold">
              {s ? "The mesh is sound" : "There is nothing to check yet"}
            </p>
            <p className="text-xs text-soft">
              {s
                ? `watertight, ${s.triangles} triangles, ${s.bodies === 1 ? "1 body" : `${s.bodies ?? "some"} bodies`}: it can be taken home`
                : "nothing can be taken home until this is mended"}
            </p>
          </div>
        </div>
        {saved.notes.map((note) => (
          <p key={note} className="border-t border-line py-2 text-sm text-soft" data-testid="note">
            {note}
          </p>
        ))}
        {told.every((i) => findings[i]?.weight === "note") && s && (
          <p className="border-t border-line py-2.5 text-sm">All is well: nothing has to be mended.</p>
        )}
        {tried?.safe && <AtOnce bench={bench} safe={tried.safe} />}
        <ul>
          {told.map((i) => (
            <Told key={i} bench={bench} finding={findings[i] as FindingView} index={i} tried={tried} />
          ))}
        </ul>
        {known.length > 0 && (
          <details className="border-t border-line py-2.5">
            <summary className="cursor-pointer text-sm text-soft">
              {known.length} {known.length === 1 ? "finding" : "findings"} that you know of
            </summary>
            <ul className="pt-2">
              {known.map((i) => (
                <Told key={i} bench={bench} finding={findings[i] as FindingView} index={i} tried={tried} />
              ))}
            </ul>
          </details>
        )}
        {findings.length > 0 && (
          <p className="border-t border-line pt-3 text-xs text-soft">
            Findings are advice: only a mesh that is not sound cannot be taken home.
          </p>
        )}
        <p className="border-t border-line pt-3 mt-3">
          <Button className="text-xs" onClick={() => useInterface.setState({ isComparing: true })}>
            Compare with an earlier state
          </Button>
        </p>
        {s && saved.looked.length > 0 && (
          <Looked
            all={saved.looked}
            shown={looked}
            onShow={setLooked}
            onGo={(l) => l.places[0] && goTo(bench, l.places[0])}
          />
        )}
      </Card>
    </Views>
  );
}

/** What was measured, also where nothing is the matter: pointing at it shows where. */
function Looked(p: {
  all: readonly LookedView[];
  shown: number | null;
  onShow: (index: number | null) => void;
  onGo: (looked: LookedView) => void;
}) {
  return (
    <section className="mt-3 border-t border-line pt-3" aria-label="What was measured">
      <h3 className="pb-1 font-display text-sm font-semibold">What was measured</h3>
      <ul>
        {p.all.map((l, i) => (
          <li key={l.what}>
            <button
              type="button"
              className={clsx(
                "flex w-full items-baseline justify-between gap-3 rounded-xs py-1 text-left text-sm",
                p.shown === i && "bg-sunk",
                l.places.length === 0 && "cursor-default",
              )}
              onPointerEnter={() => p.onShow(i)}
              onPointerLeave={() => p.onShow(null)}
              onFocus={() => p.onShow(i)}
              onBlur={() => p.onShow(null)}
              onClick={() => p.onGo(l)}
            >
              <span>{l.what}</span>
              <span className="text-right text-soft tabular-nums">{said(l.said)}</span>
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}
