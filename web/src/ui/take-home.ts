import { exportUrl } from "../api/client";
import type { SolidView } from "../api/generated/SolidView";

/** The formats that an object can be taken home in, as addresses call them. */
export type HomeFormat = Parameters<typeof exportUrl>[1];

/** A file that an object can be taken home as. */
export interface HomeFile {
  format: HomeFormat;
  words: string;
  note: string;
  href: string;
}

/** In this browser. */
const LAST = "kachel-take-home";
const SEVERAL = "kachel-take-several";

/** The files of a design, in the order and the words in which they are offered everywhere. */
export function homeFiles(id: string, solid: SolidView | null): HomeFile[] {
  const file = (format: HomeFormat, words: string, note: string) => ({
    format,
    words,
    note,
    href: exportUrl(id, format),
  });
  const all = [
    file("stl", "STL", "one body, binary"),
    file("3mf", "3MF", "parts, colours, the design itself"),
    ...((solid?.parts.length ?? 0) > 1 ? [file("stl-parts", "STL, one a filament", "ZIP")] : []),
    file("stl-text", "STL as text", ""),
    file("svg", "Outline as SVG", "millimetres"),
    file("png", "Picture as PNG", "from above"),
  ];
  // What was taken last is most often taken again.
  const last = localStorage.getItem(LAST);
  return [...all.filter((f) => f.words === last), ...all.filter((f) => f.words !== last)];
}

/** Remembers which file was taken, by its words. */
export const tookHome = (words: string) => localStorage.setItem(LAST, words);

/** The formats that were taken together last. */
export const lastSeveral = (): string[] => (localStorage.getItem(SEVERAL) ?? "stl,3mf").split(",");

export const tookSeveral = (formats: readonly string[]) => localStorage.setItem(SEVERAL, formats.join(","));
