import { useEffect } from "react";
import { Route, Switch } from "wouter";
import { BenchLoading } from "./features/bench/bench-loading";
import { fetchBench, PAGES, stationOf } from "./parts";
import { useAway } from "./state/away";
import { type Station, useInterface } from "./state/interface";
import { ActivityNote } from "./ui/activity-note";
import { Help } from "./ui/help";
import { Notices } from "./ui/notices";
import { MissingPart } from "./ui/page-problem";
import { type Part, PartOf } from "./ui/part";
import { SkipLink } from "./ui/skip-link";

function Page<P extends object>(p: { part: Part<P>; given: P }) {
  const missing = (
    <main className="h-full">
      <MissingPart level="h1" />
    </main>
  );
  return <PartOf {...p} coming={<BenchLoading />} missing={missing} />;
}

function Bench(p: { id: string; station: Station }) {
  useEffect(() => fetchBench(p.station), [p.station]);
  return <Page part={PAGES.bench} given={p} />;
}

/** Asks before a page is left on which changes wait. */
function useHeldBack() {
  const isHeld = useAway((s) => s.isAway && s.waiting > 0);
  useEffect(() => {
    if (!isHeld) return;
    const ask = (e: BeforeUnloadEvent) => e.preventDefault();
    addEventListener("beforeunload", ask);
    return () => removeEventListener("beforeunload", ask);
  }, [isHeld]);
}

export function App() {
  useHeldBack();
  const isDark = useInterface((s) => s.isDark);
  useEffect(() => {
    document.documentElement.classList.toggle("dark", isDark);
  }, [isDark]);
  return (
    <>
      <SkipLink />
      <Switch>
        <Route path="/design/:id/:station?">
          {({ id, station }) => <Bench key={id} id={id ?? ""} station={stationOf(station)} />}
        </Route>
        <Route path="/printer">
          <Page part={PAGES.printer} given={{}} />
        </Route>
        <Route path="/guide/:name?">
          {({ name }) => <Page part={PAGES.guide} given={{ name: name ?? "README" }} />}
        </Route>
        <Route path="/bed/:id">
          {({ id }) => <Page key={id} part={PAGES.bed} given={{ id: id ?? "" }} />}
        </Route>
        <Route path="/set">
          <Page part={PAGES.set} given={{}} />
        </Route>
        <Route>
          <Page part={PAGES.shelf} given={{}} />
        </Route>
      </Switch>
      <ActivityNote />
      <Notices />
      <Help />
    </>
  );
}
