/** Line icons on a 20 unit grid, drawn for Kachel. */
const PATHS = {
  undo: "M7 4 3.5 7.5 7 11M4 7.5h7.5a4.5 4.5 0 0 1 0 9H8",
  redo: "M13 4l3.5 3.5L13 11M16 7.5H8.5a4.5 4.5 0 0 0 0 9H12",
  flip: "M10 3v14M7.5 6 3 14h4.5zM12.5 6 17 14h-4.5z",
  fit: "M4 8V4h4M12 4h4v4M16 12v4h-4M8 16H4v-4",
  sun: "M10 6.5a3.5 3.5 0 1 0 0 7 3.5 3.5 0 0 0 0-7M10 2v2M10 16v2M2 10h2M16 10h2M4.4 4.4l1.4 1.4M14.2 14.2l1.4 1.4M15.6 4.4l-1.4 1.4M5.8 14.2l-1.4 1.4",
  moon: "M15.5 12.5A6.5 6.5 0 0 1 7.5 4.5a6.5 6.5 0 1 0 8 8",
  help: "M7.5 7.5a2.5 2.5 0 1 1 3.6 2.2c-.8.4-1.1.9-1.1 1.8M10 14.5v.1",
  more: "M5 10h.01M10 10h.01M15 10h.01",
  down: "M5.5 8l4.5 4.5L14.5 8",
  reset: "M5 8a5.5 5.5 0 1 1-.5 4M5 4v4h4",
  pin: "M7 3.5h6l-1 5 2.5 2.5h-9L8 8.5zM10 11v6",
  close: "M5 5l10 10M15 5 5 15",
  check: "M4 10.5l4 4 8-9",
  crop: "M6 2.5V14h11.5M2.5 6H14v11.5",
  turn: "M4.5 10a5.5 5.5 0 1 0 2-4.2M3.5 3.5l.5 4 4-.5M10 10l4-1",
  brush: "M17 3 9.5 10.5M8.5 10.5c-2 0-3 1.3-3 2.8s-1 2.5-2.5 2.7c3.5 1 7.5 0 7.5-3.5z",
  sheet: "M3 6l11-2.5 3 11L5.5 16.5zM3 6h.01M14 3.5h.01M17 14.5h.01M5.5 16.5h.01",
  distance: "M3 5v10M17 5v10M3.5 10h13M6 7.5 3.5 10 6 12.5M14 7.5l2.5 2.5-2.5 2.5",
  choose: "M5 3l10 7-4.5 1.2L8 16z",
  pen: "M10 3l4 8-2.5 5h-3L6 11zM10 3v6.5M10 9.5a1 1 0 1 0 0 2 1 1 0 0 0 0-2",
  nodes:
    "M3.5 14.5h3v3h-3zM13.5 14.5h3v3h-3zM8.5 3h3v3h-3zM5 14.5C5 8 6.5 4.5 8.5 4.5M15 14.5C15 8 13.5 4.5 11.5 4.5",
  cut: "M3 16 16 4M4.5 5.5 7 8M13 12l2.5 2.5M9 3.5v.1M11 16.5v.1",
  glass: "M5 3h10l-1.500 14h-7zM5.700 9h8.600",
  spool: "M5 3h10M5 17h10M7 3v14M13 3v14M7 7l6 2M7 11l6 2",
  keep: "M5 3.500h10v13l-5-3.500-5 3.500z",
  table: "M3 4.500h14v11H3zM3 8h14M3 12h14M9 4.500v11",
  lift: "M4 7h12M4 11h12M4 15h12M10 1.5v3M8.5 3 10 1.5 11.5 3",
} as const;

export type IconName = keyof typeof PATHS;

export function Icon({ name, className }: { name: IconName; className?: string }) {
  return (
    <svg viewBox="0 0 20 20" className={className ?? "size-5"} aria-hidden="true">
      <path
        d={PATHS[name]}
        fill="none"
        stroke="currentColor"
        strokeWidth={name === "more" ? 2.6 : 1.6}
        strokeLinecap="round"
        strokeLinejoin="round"
      />
    </svg>
  );
}

/** A glazed tile: quarter rings that meet, and one terracotta tile among them. */
export function Mark({ className }: { className?: string }) {
  return <img src="/icon.svg" alt="" className={className ?? "size-7"} />;
}
