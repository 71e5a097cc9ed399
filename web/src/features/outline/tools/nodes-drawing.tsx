import { memo } from "react";
import type { DrawnLine } from "../../../api/generated/DrawnLine";
import type { Px } from "../../artwork/frame";
import type { CanvasView } from "../canvas-view";
import { pathOf } from "../lines";

/** A node: which line, which place in it. */
export type Name = `${number}:${number}`;

export const nameOf = (line: number, node: number): Name => `${line}:${node}`;

/** What of a node a hand holds, and the lines as they were before. */
export type Grip = {
  name: Name;
  part: "at" | "before" | "after";
  from: Px;
  lines: DrawnLine[];
  isNew: boolean;
};

/** Nodes that are drawn at the most at once: beyond that only those in view. */
const MOST_DRAWN = 1500;

export function NodesDrawing(p: { view: CanvasView; lines: DrawnLine[]; chosen: ReadonlySet<Name> }) {
  const { toScreen, width, height } = p.view;
  const all = p.lines.flatMap((line, li) =>
    line.nodes.flatMap((n, ni) => {
      const [x, y] = toScreen(n.at);
      return x < -20 || y < -20 || x > width + 20 || y > height + 20 ? [] : { n, x, y, name: nameOf(li, ni) };
    }),
  );
  const d = pathOf(p.lines, toScreen);
  return (
    <g fill="none" pointerEvents="none" data-nodes={all.length}>
      <path d={d} stroke="#fff" strokeWidth={4} />
      <path d={d} stroke="var(--glaze)" strokeWidth={1.6} />
      {all.slice(0, MOST_DRAWN).map(({ n, x, y, name }) =>
        p.chosen.has(name) ? (
          <g key={name} stroke="var(--terracotta)">
            {[n.before, n.after].map((h) => {
              if (!h) return null;
              const [hx, hy] = toScreen(h);
              return (
                <g key={String(h)}>
                  <path d={`M${x} ${y}L${hx} ${hy}`} />
                  <circle cx={hx} cy={hy} r={4} fill="#fff" />
                </g>
              );
            })}
            <NodeMark name={name} x={x} y={y} isSmooth={!!(n.before || n.after)} isChosen />
          </g>
        ) : (
          <NodeMark key={name} name={name} x={x} y={y} isSmooth={!!(n.before || n.after)} />
        ),
      )}
    </g>
  );
}

/** A node; drawn again only when it moves itself. */
const NodeMark = memo(function NodeMark(p: {
  name: Name;
  x: number;
  y: number;
  isSmooth: boolean;
  isChosen?: boolean;
}) {
  return (
    <g stroke="var(--terracotta)" data-node={p.name} data-x={p.x} data-y={p.y}>
      <rect
        x={p.x - 3.5}
        y={p.y - 3.5}
        width={7}
        height={7}
        rx={p.isSmooth ? 3.5 : 0}
        fill={p.isChosen ? "var(--terracotta)" : "#fff"}
      />
    </g>
  );
});
