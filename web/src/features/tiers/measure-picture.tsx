import type { Picture } from "../../api/generated/Picture";

/** What a measure does, as a little drawing: the thin line is what there is, the thick one what is measured. */
const DRAWN: Record<Picture, [string, string]> = {
  outwards: ["M3 15h9V5h5", "M12 10h5M15 8l2 2-2 2"],
  inwards: ["M17 15H8V5H3", "M8 10h5M11 8l2 2-2 2"],
  thick: ["M7 17V3M13 17V3", "M7 10h6M8.500 8.500 7 10l1.500 1.500M11.500 8.500 13 10l-1.500 1.500"],
  high: ["M3 17h14M6 17V5h8v12", "M10 16V6M8.500 7.500 10 6l1.500 1.500"],
  deep: ["M3 5h14M6 5v10h8V5", "M10 6v8M8.500 12.500 10 14l1.500-1.500"],
  across: [
    "M10 4a6 6 0 1 1 0 12 6 6 0 0 1 0-12",
    "M4 10h12M5.500 8.500 4 10l1.500 1.500M14.500 8.500 16 10l-1.500 1.500",
  ],
  corner: ["M4 16V9M11 4h5", "M4 9q0-5 7-5"],
  edge: ["M3 17V9M9 4h8", "M3 9l6-5"],
  gap: ["M3 4v12M17 4v12", "M3 10h14M5 8.500 3 10l2 1.500M15 8.500l2 1.500-2 1.500"],
  turn: ["M4 16h12M4 16 13 6", "M10 16a6 6 0 0 0-2-4.500M6.500 12l1.500-.6.600 1.600"],
  many: ["M4 10h.1", "M4 7v6M10 7v6M16 7v6"],
  form: ["M3 6h5v8H3z", "M14 6a4 4 0 1 1 0 8 4 4 0 0 1 0-8"],
};

export function MeasurePicture({ picture }: { picture: Picture }) {
  const [what, measure] = DRAWN[picture];
  return (
    <svg
      viewBox="0 0 20 20"
      className="size-4.5 flex-none"
      aria-hidden="true"
      fill="none"
      strokeLinecap="round"
    >
      <path d={what} stroke="var(--edge)" strokeWidth="1.2" />
      <path d={measure} stroke="var(--glaze)" strokeWidth="1.6" />
    </svg>
  );
}
