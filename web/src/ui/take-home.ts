import { exportUrl } from "../api/client";
import type { SolidView } from "../api/generated/SolidView";

/** A file that an object can be taken home as. */
export interface HomeFile {
  words: string;
  note: string;
  href: string;
}

/** In this browser. */
const LAST = "kachel-take-home";

/** The files of a design, in the order and the words in which they are offered everywhere. */
export function homeFiles(id: string, solid: SolidView | null): HomeFile[] {
  const file = (format: Parameters<typeof exportUrl>[1], words: string, note: string) => ({
    words,
    note,
    href: exportUrl(id, format),
  });
  const all = [
    file("stl", "STL", "one body, binary"),
    file("3mf", "3MF", "parts, colours, the design itself"),
    file("stl-text", "STL as text", ""),
    ...((solid?.parts.length ?? 0) > 1 ? [file("stl-parts", "STL, one a filament", "ZIP")] : []),
  ];
  // What was taken last is most often taken again.
  const last = localStorage.getItem(LAST);
  return [...all.filter((f) => f.words === last), ...all.filter((f) => f.words !== last)];
}

/** Remembers which file was taken, by its words. */
export const tookHome = (words: string) => localStorage.setItem(LAST, words);
