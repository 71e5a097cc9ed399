import type { RecipeKind } from "../../api/generated/RecipeKind";

/** Each recipe as it looks cut through, or from above where that tells more; drawn for Kachel. */
const DRAWN: Record<RecipeKind, { a: string; b?: string }> = {
  cutter: { a: "M3 26h8v-3H8L8 6H6v17H3zM37 26h-8v-3h3V6h2v17h3z" },
  "cutter-stamp": {
    a: "M3 26h8v-3H8L8 6H6v17H3zM37 26h-8v-3h3V6h2v17h3z",
    b: "M14 26V12h3v14zM22 26V12h3v14z",
  },
  stamp: { a: "M5 26v-7h30v7z", b: "M9 19v-6h5v6zM18 19v-6h9v6z" },
  coaster: { a: "M4 26V15q0-1 1-1h6v6h5v-6h8v6h5v-6h6q1 0 1 1v11z" },
  ornament: {
    a: "M20 4a4 4 0 1 1 0 8 4 4 0 0 1 0-8zm0 2.5a1.5 1.5 0 1 0 0 3 1.5 1.5 0 0 0 0-3zM20 12c8 3 11 8 11 16H9c0-8 3-13 11-16z",
  },
  magnet: { a: "M4 26V13q0-1 1-1h30q1 0 1 1v13h-8v-7H12v7z", b: "M13 26v-6h14v6z" },
  "key-tag": {
    a: "M12 9h22q3 0 3 3v9q0 3-3 3H12q-3 0-6-4-3-3.500 0-7 3-4 6-4zm-2 5.500a2 2 0 1 0 0 4 2 2 0 0 0 0-4z",
  },
  token: {
    a: "M20 5a11 11 0 1 1 0 22 11 11 0 0 1 0-22zm0 2.500a8.500 8.500 0 1 0 0 17 8.500 8.500 0 0 0 0-17z",
    b: "M20 10l2 4h4l-3 3 1 5-4-2.500-4 2.500 1-5-3-3h4z",
  },
  pendant: {
    a: "M20 2a3 3 0 0 1 2 5a11 11 0 1 1-4 0a3 3 0 0 1 2-5zm0 7.500a8.500 8.500 0 1 0 0 17 8.500 8.500 0 0 0 0-17z",
    b: "M12 16h16v3H12zM18.500 10h3v15h-3z",
  },
  plaque: { a: "M4 9h32v15H4z", b: "M8 13h8v2H8zM8 18h14v2H8zM27 13h5v7h-5z" },
  "free-stack": { a: "M4 26v-5h32v5zM9 19v-5h22v5z", b: "M15 12V7h10v5z" },
};

export function RecipePicture({ kind, className }: { kind: RecipeKind; className?: string }) {
  const d = DRAWN[kind];
  return (
    <svg viewBox="0 0 40 30" className={className ?? "h-7.5 w-10 flex-none"} aria-hidden="true">
      <path d={d.a} fill="var(--wall)" fillRule="evenodd" />
      {d.b && <path d={d.b} fill="var(--stamp)" />}
    </svg>
  );
}
