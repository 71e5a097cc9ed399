import type { PatchView } from "../../api/generated/PatchView";
import type { TraceView } from "../../api/generated/TraceView";
import { css } from "./frame";

/** White under dark, so that a contour is legible on any colour. */
const STROKES = [
  ["#ffffff", 3.4],
  ["#0f7c80", 1.6],
] as const;

/** The contours as crisp lines, in pixels of the picture: `part` is what the box on the screen shows of them. */
export function Contours(p: {
  part: readonly number[];
  box: { left: number; top: number; width: number; height: number };
  /** How much of the picture is hidden, percent. */
  dim: number;
  inks: readonly PatchView[];
  trace: TraceView | null;
}) {
  return (
    <svg
      viewBox={p.part.join(" ")}
      className="pointer-events-none absolute overflow-visible will-change-transform"
      style={p.box}
      role="img"
      aria-label="Contours"
    >
      {p.inks.map((q, i) => (
        <path
          // biome-ignore lint/suspicious/noArrayIndexKey: patches have no other name
          key={i}
          d={q.path}
          fill={q.colour ? css(q.colour) : "#0f7c80"}
          fillOpacity={q.colour ? 0.45 * (p.dim / 100) : 0.12}
          fillRule="evenodd"
          stroke="none"
        />
      ))}
      {STROKES.map(([colour, width]) =>
        p.inks.map((q, i) => (
          <path
            // biome-ignore lint/suspicious/noArrayIndexKey: patches have no other name
            key={`${colour}${i}`}
            d={q.path}
            fill="none"
            stroke={colour}
            strokeWidth={width}
            strokeLinejoin="round"
            vectorEffect="non-scaling-stroke"
            data-contour={width === 1.6 ? i : undefined}
          />
        )),
      )}
      {p.trace && (
        <>
          <path
            d={p.trace.lines}
            fill="none"
            stroke="#b4512b"
            strokeWidth={1.4}
            strokeDasharray="8 3 2 3"
            vectorEffect="non-scaling-stroke"
            data-lines
          />
          <path
            d={p.trace.dropped}
            fill="#b4512b"
            fillOpacity={0.5}
            stroke="#b4512b"
            strokeWidth={1.6}
            vectorEffect="non-scaling-stroke"
            data-dropped
          />
        </>
      )}
    </svg>
  );
}
