import { useEffect } from "react";
import { Link, useLocation } from "wouter";
import { useBench } from "../../api/bench";
import { STATIONS, type Station, useInterface } from "../../state/interface";
import { Button } from "../../ui/button";
import { isTyping } from "../../ui/help";
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
      const isCtrl = e.ctrlKey || e.metaKey;
      const key = e.key.toLowerCase();
      if (isCtrl && (key === "y" || (key === "z" && e.shiftKey))) bench?.redo();
      else if (isCtrl && key === "z") bench?.undo();
      else if (isCtrl || e.altKey) return;
      else if (STATIONS[Number(e.key) - 1]) go(`/design/${id}/${STATIONS[Number(e.key) - 1]}`);
      else if (key === "m") flip();
      else return;
      e.preventDefault();
    };
    addEventListener("keydown", press);
    return () => removeEventListener("keydown", press);
  }, [bench, flip, go, id]);

  if (problem && !bench) {
    return (
      <main className="flex h-full flex-col items-center justify-center gap-3 bg-tile">
        <h1 className="font-display text-2xl font-semibold">{problem.problem.title}</h1>
        <p role="alert">{problem.problem.detail}.</p>
        <p className="text-sm text-soft">{problem.problem.hint}</p>
        <div className="flex gap-2 pt-2">
          <Button onClick={reload}>Try again</Button>
          <Link href="/" className="rounded-tile bg-deep px-3 py-1.5 text-sm font-semibold text-on-deep">
            To the shelf
          </Link>
        </div>
      </main>
    );
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
