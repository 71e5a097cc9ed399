import { exportUrl } from "../api/client";
import type { SolidView } from "../api/generated/SolidView";

/** A file that an object can be taken home as. */
export interface HomeFile {
  words: string;
  note: string;
  href: string;
}

/** The files of a design, in the order and the words in which they are offered everywhere. */
export function homeFiles(id: string, solid: SolidView | null): HomeFile[] {
  const file = (format: Parameters<typeof exportUrl>[1], words: string, note: string) => ({
    words,
    note,
    href: exportUrl(id, format),
  });
  return [
    file("stl", "STL", "one body, binary"),
    file("3mf", "3MF", "parts, colours, the design itself"),
    file("stl-text", "STL as text", ""),
    ...((solid?.parts.length ?? 0) > 1 ? [file("stl-parts", "STL, one a filament", "ZIP")] : []),
  ];
}
