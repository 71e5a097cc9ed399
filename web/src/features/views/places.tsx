import type { PlaceView } from "../../api/generated/PlaceView";
import type { ResultView } from "../../api/generated/ResultView";
import { crossings } from "./crossings";

/** The places of findings in plan, with a ring round each finding wide enough to be seen; one place may be looked at. */
export function Places(p: { result: ResultView; finding: number | null; place: number | null; k: number }) {
  const { result, finding, k } = p;
  const flip = result.is_mirrored ? "scale(-1 1)" : undefined;
  return (
    <g transform={flip}>
      {result.findings.map((f, i) => {
        if (!f.place || (f.is_accepted && i !== finding)) return null;
        const [x, y, w, h] = f.place;
        const pad = 7 / k;
        const isPointed = i === finding;
        // While one is looked at, the others stand back.
        const isBack = finding !== null && !isPointed;
        return (
          // biome-ignore lint/suspicious/noArrayIndexKey: findings have no other name
          <g key={i} opacity={isBack ? 0.35 : 1}>
            <rect
              x={x - pad}
              y={y - pad}
              width={w + 2 * pad}
              height={h + 2 * pad}
              rx={Math.min(w, h) / 2 + pad}
              fill="var(--terracotta)"
              fillOpacity={isPointed ? 0.12 : isBack ? 0 : 0.06}
              stroke="var(--terracotta)"
              strokeWidth={isPointed ? 3.5 : 2}
              strokeDasharray={isPointed ? undefined : "5 3"}
              vectorEffect="non-scaling-stroke"
              data-finding={i}
            />
            <path
              d={f.places.map((place) => place.path).join("")}
              fill="var(--terracotta)"
              fillOpacity={isPointed ? 0.75 : isBack ? 0 : 0.4}
              fillRule="evenodd"
              stroke="var(--terracotta)"
              strokeWidth={1.2}
              vectorEffect="non-scaling-stroke"
            />
            {isPointed && p.place !== null && f.places[p.place] && (
              <path
                d={f.places[p.place]?.path}
                fill="none"
                stroke="var(--ink)"
                strokeWidth={2}
                vectorEffect="non-scaling-stroke"
                data-place={p.place}
              />
            )}
          </g>
        );
      })}
    </g>
  );
}

/** Places with heights where the cutting line runs through them, in the section. */
export function PlacesInSection(p: {
  places: readonly PlaceView[];
  isMirrored: boolean;
  section: number;
  turned: number;
  x: (mm: number) => number;
  y: (mm: number) => number;
}) {
  return p.places.map((place, i) => {
    if (!place.heights) return null;
    const [low, high] = place.heights;
    // Cuts come as the tool is printed, crossings as the picture reads.
    const met = crossings(place.path, p.isMirrored, p.section, p.turned)
      .map((t) => p.x(p.isMirrored ? -t : t))
      .sort((a, b) => a - b);
    // In and out, in turn; what lies closer than can be seen is one.
    const spans: [number, number][] = [];
    for (let k = 0; k + 1 < met.length; k += 2) {
      const [from, to] = [met[k] ?? 0, met[k + 1] ?? 0];
      const last = spans.at(-1);
      if (last && from - last[1] < 8) last[1] = to;
      else spans.push([from, to]);
    }
    return spans.map(([left, right]) => (
      <rect
        key={left}
        x={left - 3}
        y={p.y(high) - 3}
        width={right - left + 6}
        height={p.y(low) - p.y(high) + 6}
        rx={3}
        fill="var(--terracotta)"
        fillOpacity={0.3}
        stroke="var(--terracotta)"
        strokeWidth={2}
        data-section-place={i}
      />
    ));
  });
}
