import babel from "@rolldown/plugin-babel";
import tailwindcss from "@tailwindcss/vite";
import react, { reactCompilerPreset } from "@vitejs/plugin-react";
import { defineConfig } from "vitest/config";

/** What pages have in common: all but React itself, which comes first, and what draws solids. */
const SHARED = /src.(ui|api|state).|node_modules.(?!react-dom|three|@react-three)/;

export default defineConfig({
  plugins: [react(), babel({ presets: [reactCompilerPreset()] }), tailwindcss()],
  // The strict content policy allows no data: fonts or scripts.
  build: {
    assetsInlineLimit: 0,
    chunkSizeWarningLimit: 1200,
    // Pages, stations and dialogs come one by one (`src/parts.ts`). What nearly all of them need is one file instead of forty.
    rolldownOptions: {
      output: { codeSplitting: { groups: [{ name: "page", minShareCount: 5, test: SHARED }] } },
    },
  },
  server: { proxy: { "/api": "http://127.0.0.1:4270" } },
  test: { environment: "node", include: ["src/**/*.test.{ts,tsx}"], setupFiles: ["src/setup.test-env.ts"] },
});
