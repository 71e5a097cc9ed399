import babel from "@rolldown/plugin-babel";
import tailwindcss from "@tailwindcss/vite";
import react, { reactCompilerPreset } from "@vitejs/plugin-react";
import { defineConfig } from "vitest/config";

export default defineConfig({
  plugins: [react(), babel({ presets: [reactCompilerPreset()] }), tailwindcss()],
  // The strict content policy allows no data: fonts or scripts.
  build: { assetsInlineLimit: 0, chunkSizeWarningLimit: 1200 },
  server: { proxy: { "/api": "http://127.0.0.1:4270" } },
  test: { environment: "node", include: ["src/**/*.test.{ts,tsx}"], setupFiles: ["src/setup.test-env.ts"] },
});
