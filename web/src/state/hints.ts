import { create } from "zustand";

/** Where a new maker is told something, once each. */
export const HINTS = ["artwork", "tiers", "print"] as const;
export type HintName = (typeof HINTS)[number];

const KEY = "kachel-hints";

/** What has been read of them; null where somebody came to a shelf with designs on it, and is told nothing. */
function readSoFar(): readonly HintName[] | null {
  const saved = localStorage.getItem(KEY);
  return saved === null ? null : HINTS.filter((h) => saved.split(" ").includes(h));
}

interface Hints {
  read: readonly HintName[] | null;
  /** Somebody stands before an empty shelf. */
  welcome: () => void;
  /** One of them has been read, or all. */
  close: (which: HintName | "all") => void;
}

const keep = (read: readonly HintName[]) => {
  localStorage.setItem(KEY, read.join(" "));
  return { read };
};

/** The three hints of the first way from a picture to a file. */
export const useHints = create<Hints>((set, get) => ({
  read: readSoFar(),
  welcome: () => get().read === null && set(keep([])),
  close: (which) => set(({ read }) => keep(which === "all" ? HINTS : [...(read ?? []), which])),
}));
