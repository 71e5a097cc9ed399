import { vi } from "vitest";

// What the stores read of a browser when they are made.
const kept = new Map<string, string>();
vi.stubGlobal("localStorage", {
  getItem: (k: string) => kept.get(k) ?? null,
  setItem: (k: string, v: string) => kept.set(k, v),
});
vi.stubGlobal("matchMedia", () => ({ matches: true }));
if (typeof navigator === "undefined") vi.stubGlobal("navigator", { language: "en-GB" });
