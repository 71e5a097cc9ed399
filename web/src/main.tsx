import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { Tooltip } from "radix-ui";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { designQuery } from "./api/design-query";
import { shelfQuery } from "./api/shelf-query";
import { App } from "./app";
import "./index.css";
import { fetchBench, PAGES, stationOf } from "./parts";
import { keepFocus } from "./ui/keep-focus";

/** So long the first drawing of the shelf waits for its designs. */
const FIRST_MS = 150;

const cache = new QueryClient({
  defaultOptions: { queries: { staleTime: 30_000, refetchOnWindowFocus: true, retry: false } },
});

// A design is asked for while the bench that shows it is still on the way.
const [, opened, station] = location.pathname.match(/^\/design\/([^/]+)(?:\/([^/]+))?/) ?? [];
if (opened) {
  void cache.prefetchQuery(designQuery(opened));
  fetchBench(stationOf(station));
}
// The shelf was asked for even before; it is drawn once, with its designs, where they come at once.
const first =
  location.pathname === "/" ? Promise.all([cache.prefetchQuery(shelfQuery), PAGES.shelf.come()]) : undefined;

keepFocus();

const root = document.getElementById("root");

function draw() {
  if (!root) return;
  createRoot(root).render(
    <StrictMode>
      <QueryClientProvider client={cache}>
        <Tooltip.Provider delayDuration={450}>
          <App />
        </Tooltip.Provider>
      </QueryClientProvider>
    </StrictMode>,
  );
}

if (first) void Promise.race([first, new Promise((done) => setTimeout(done, FIRST_MS))]).then(draw);
else draw();
