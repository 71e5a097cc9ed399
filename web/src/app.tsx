import { useEffect } from "react";
import { Route, Switch } from "wouter";
import { BenchPage } from "./features/bench/bench-page";
import { Shelf } from "./features/shelf/shelf";
import { STATIONS, type Station, useInterface } from "./state/interface";
import { ActivityNote } from "./ui/activity-note";
import { Help } from "./ui/help";
import { Notices } from "./ui/notices";

function isStation(s: string | undefined): s is Station {
  return STATIONS.some((k) => k === s);
}

export function App() {
  const isDark = useInterface((s) => s.isDark);
  useEffect(() => {
    document.documentElement.classList.toggle("dark", isDark);
  }, [isDark]);
  return (
    <>
      <Switch>
        <Route path="/design/:id/:station?">
          {({ id, station }) => (
            <BenchPage key={id} id={id ?? ""} station={isStation(station) ? station : "tiers"} />
          )}
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
