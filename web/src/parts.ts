import { STATIONS, type Station } from "./state/interface";
import { part } from "./ui/part";

export const PAGES = {
  shelf: part(() => import("./features/shelf/shelf").then((m) => m.Shelf)),
  bench: part(() => import("./features/bench/bench-page").then((m) => m.BenchPage)),
  bed: part(() => import("./features/beds/bed-page").then((m) => m.BedPage)),
  set: part(() => import("./features/sets/set-page").then((m) => m.SetPage)),
  printer: part(() => import("./features/printer/printer-page").then((m) => m.PrinterPage)),
  guide: part(() => import("./features/guide/guide-page").then((m) => m.GuidePage)),
};

/** The bench's five stations. */
export const STATION_PARTS = {
  artwork: part(() => import("./features/artwork/artwork").then((m) => m.Artwork)),
  outline: part(() => import("./features/outline/outline").then((m) => m.Outline)),
  tiers: part(() => import("./features/tiers/tiers").then((m) => m.Tiers)),
  check: part(() => import("./features/check/check").then((m) => m.Check)),
  print: part(() => import("./features/print/print").then((m) => m.Print)),
};

/** What draws in three dimensions: the largest parts of all. */
export const SOLIDS = {
  design: part(() => import("./features/views/solid").then((m) => m.Solid)),
  beside: part(() => import("./features/views/beside").then((m) => m.Beside)),
  bed: part(() => import("./features/beds/bed-solid").then((m) => m.BedSolid)),
  layer: part(() => import("./features/print/layer-solid").then((m) => m.LayerSolid)),
};

/** Dialogs that are not open on the first screen. */
export const DIALOGS = {
  keys: part(() => import("./ui/help-dialog").then((m) => m.HelpDialog)),
  workshop: part(() => import("./features/workshop/workshop-dialog").then((m) => m.WorkshopDialog)),
  snapshots: part(() => import("./features/bench/snapshots").then((m) => m.Snapshots)),
  take: part(() => import("./features/bench/take-dialog").then((m) => m.TakeDialog)),
  toAnother: part(() => import("./features/outline/to-another").then((m) => m.ToAnother)),
};

/** The station that a name of the address means. */
export const stationOf = (name: string | undefined): Station => STATIONS.find((s) => s === name) ?? "tiers";

/** Fetches what a station of the bench is made of, all at once: what draws the solid would be asked for last. */
export function fetchBench(station: Station) {
  void PAGES.bench.come();
  void STATION_PARTS[station].come();
  if (station === "tiers" || station === "check") void SOLIDS.design.come();
}

/** Fetches all that the bench may need, one by one while nothing else is done: it is there at once, also where the server is away. */
export async function fetchRest() {
  for (const { come } of [STATION_PARTS, SOLIDS, DIALOGS].flatMap((parts) => Object.values(parts))) {
    // Not every browser says when it is idle.
    await new Promise<void>((done) =>
      "requestIdleCallback" in window ? requestIdleCallback(() => done()) : setTimeout(done, 50),
    );
    await come();
  }
}
