import type { Bench } from "../../api/bench";
import { withUnit } from "../../ui/length";
import { Words } from "../views/drawing";
import type { CanvasView } from "./canvas-view";
import { distance, pathOf } from "./lines";

/** Drawn lines that enclose nothing yet: seen at once, with rings round their open ends and the gap between them. */
export function OpenLines({ bench, view }: { bench: Bench; view: CanvasView }) {
  const { document } = bench.design;
  const mm = bench.result.outline?.mm_per_px ?? null;
  return document.changes.map(({ id, is_on, change }) => {
    if (!is_on || change.do !== "draw" || change.line.is_closed || change.width !== null) return null;
    const nodes = change.line.nodes;
    const [first, last] = [nodes[0], nodes.at(-1)];
    if (!first || !last) return null;
    const ends = [first.at, last.at].map(view.toScreen);
    const [x, y] = ends[1] ?? [0, 0];
    const gap = distance(first.at, last.at);
    return (
      <g key={id} fill="none" stroke="var(--terracotta)" pointerEvents="none" data-open-line={id}>
        <path d={pathOf([change.line], view.toScreen)} strokeWidth={2} />
        {ends.map((at) => (
          <circle key={String(at)} cx={at[0]} cy={at[1]} r={7} strokeWidth={1.6} />
        ))}
        <Words x={x + 12} y={y - 10}>
          {mm === null ? "open" : `gap ${withUnit(gap * mm, document.unit)}`}
        </Words>
      </g>
    );
  });
}
