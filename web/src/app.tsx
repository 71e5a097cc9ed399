import { lazy, Suspense, useEffect } from "react";
import { Route, Switch } from "wouter";
import { BenchLoading } from "./features/bench/bench-loading";
import { Shelf } from "./features/shelf/shelf";
import { useAway } from "./state/away";
import { STATIONS, type Station, useInterface } from "./state/interface";
import { ActivityNote } from "./ui/activity-note";
import { Help } from "./ui/help";
import { Notices } from "./ui/notices";
import { SkipLink } from "./ui/skip-link";

// The shelf comes first and does not wait for the bench.
const BedPage = lazy(() => import("./features/beds/bed-page").then((m) => ({ default: m.BedPage })));
const PrinterPage = lazy(() =>
  import("./features/printer/printer-page").then((m) => ({ default: m.PrinterPage })),
);
const GuidePage = lazy(() => import("./features/guide/guide-page").then((m) => ({ default: m.GuidePage })));
const SetPage = lazy(() => import("./features/sets/set-page").then((m) => ({ default: m.SetPage })));
const BenchPage = lazy(() => import("./features/bench/bench-page").then((m) => ({ default: m.BenchPage })));

function isStation(s: string | undefined): s is Station {
  return STATIONS.some((k) => k === s);
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
          {({ id, station }) => (
            <Suspense fallback={<BenchLoading />}>
              <BenchPage key={id} id={id ?? ""} station={isStation(station) ? station : "tiers"} />
            </Suspense>
          )}
        </Route>
        <Route path="/printer">
          <Suspense fallback={<BenchLoading />}>
            <PrinterPage />
          </Suspense>
        </Route>
        <Route path="/guide/:name?">
          {({ name }) => (
            <Suspense fallback={<BenchLoading />}>
              <GuidePage name={name ?? "README"} />
            </Suspense>
          )}
        </Route>
        <Route path="/bed/:id">
          {({ id }) => (
            <Suspense fallback={<BenchLoading />}>
              <BedPage key={id} id={id ?? ""} />
            </Suspense>
          )}
        </Route>
        <Route path="/set">
          <Suspense fallback={<BenchLoading />}>
            <SetPage />
          </Suspense>
        </Route>
        <Route>
          <Shelf />
        </Route>
      </Switch>
      <ActivityNote />
      <Notices />
      <Help />
    </>
  );
}
