import type { FindingView } from "../../api/generated/FindingView";

/** A place that Check found, and the layer in which it is seen. */
export interface Look {
  /** Number of the layer, 1 being the lowest. */
  layer: number;
  /** Which finding of the design. */
  finding: number;
  /** Which of its places. */
  place: number;
  what: string;
  /** SVG path of its outline, mm, y down. */
  path: string;
}

/** Heights of layers are multiples of each other's; less than this is rounding, mm. */
const ROUNDING = 1e-4;

/** Places of findings that have a height: what begins in the air, reaches out, spans, is too thin. From the bed up. */
export function looksOf(findings: readonly FindingView[], tops: readonly number[]): Look[] {
  const all = findings.flatMap((f, finding) =>
    f.places.flatMap((p, place) => {
      if (!p.heights) return [];
      const low = p.heights[0];
      const at = tops.findIndex((top) => top > low + ROUNDING);
      return [{ layer: at < 0 ? tops.length : at + 1, finding, place, what: f.what, path: p.path }];
    }),
  );
  return all.sort((a, b) => a.layer - b.layer);
}
