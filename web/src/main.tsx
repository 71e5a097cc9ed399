import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { Tooltip } from "radix-ui";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { designQuery } from "./api/design-query";
import { App } from "./app";
import "./index.css";
import { keepFocus } from "./ui/keep-focus";

const cache = new QueryClient({
  defaultOptions: { queries: { staleTime: 30_000, refetchOnWindowFocus: true, retry: false } },
});

// A design is asked for while the bench that shows it is still on the way.
const opened = location.pathname.match(/^\/design\/([^/]+)/)?.[1];
if (opened) void cache.prefetchQuery(designQuery(opened));

keepFocus();

const root = document.getElementById("root");
if (root) {
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
