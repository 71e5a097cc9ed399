import { useRef, useState } from "react";
import type { DrawnLine } from "../../../api/generated/DrawnLine";
import type { Node } from "../../../api/generated/Node";
import { Button } from "../../../ui/button";
import type { Px } from "../../artwork/frame";
import { Tray } from "../../artwork/tools/tray";
import { Words } from "../../views/drawing";
import type { CanvasView, Pointing } from "../canvas-view";
import { arc, corner, distance, pathOf, straightened } from "../lines";
import { Catches } from "./catches-menu";
import { drawnUse, type ToolParts, type ToolProps } from "./tool";

/** Screen pixels within which a click on the first node closes a line. */
const CLOSES = 10;

/**
 * Straight lines by clicks, smooth curves by dragging, arcs with A (end first, then a place on the arc), all in one line.
 * A click on the first node closes it; Enter ends it open. With `isCut`, the line cuts what is chosen.
 */
function usePath(p: ToolProps, isCut: boolean): ToolParts {
  const { bench } = p;
  const [nodes, setNodes] = useState<Node[]>([]);
  const [isArc, setArc] = useState(false);
  const [arcEnd, setArcEnd] = useState<Px | null>(null);
  const [hover, setHover] = useState<Px | null>(null);
  const held = useRef<{ from: Px; closes: boolean } | null>(null);
  const first = nodes[0];
  const last = nodes.at(-1);

  const reset = () => {
    setNodes([]);
    setArcEnd(null);
    held.current = null;
  };
  const finish = (line: DrawnLine) => {
    reset();
    if (line.nodes.length < 2) return;
    if (isCut) {
      bench.change([
        { kind: "add-change", change: { do: "cut", on: p.on, line: { ...line, is_closed: false }, gap: 0 } },
      ]);
      p.onDone();
    } else {
      const use = drawnUse(
        bench.result.patches,
        line.nodes.map((n) => n.at),
      );
      bench.change([{ kind: "add-change", change: { do: "draw", line, width: null, use } }]);
    }
  };
  const aimed = (e: Pointing): Px => (e.isShift && last ? straightened(last.at, e.bare) : e.at);
  const withArc = (by: Px): Node[] => {
    const made = last && arcEnd && arc(last.at, by, arcEnd);
    if (!made || !last || !arcEnd) return arcEnd ? [...nodes, corner(arcEnd)] : nodes;
    return [...nodes.slice(0, -1), { ...last, after: made.after }, ...made.nodes];
  };
  const closes = (e: Pointing) =>
    !isCut && first !== undefined && nodes.length > 1 && distance(e.bare, first.at) * e.scale < CLOSES;

  const done = (isClosed: boolean) => finish({ nodes, is_closed: isClosed });
  return {
    events: {
      isCatching: true,
      onDown: (e) => {
        if (e.isDouble && nodes.length > 1 && !isArc) {
          done(false);
          return;
        }
        if (isArc && last) {
          if (!arcEnd) setArcEnd(closes(e) && first ? first.at : aimed(e));
          else {
            const made = withArc(e.at);
            setArcEnd(null);
            const isClosed = first !== undefined && distance(arcEnd, first.at) < 1e-9;
            if (!isClosed) setNodes(made);
            else {
              // The arc's end is the first node.
              const end = made.at(-1);
              const joined = made
                .slice(0, -1)
                .map((n, i) => (i === 0 ? { ...n, before: end?.before ?? null } : n));
              finish({ nodes: joined, is_closed: true });
            }
          }
          return;
        }
        held.current = { from: aimed(e), closes: closes(e) };
        if (!held.current.closes) setNodes([...nodes, corner(held.current.from)]);
      },
      onMove: (e) => {
        setHover(closes(e) && first ? first.at : aimed(e));
        const h = held.current;
        if (!h || distance(h.from, e.bare) * e.scale < 5) return;
        // Dragging draws the handles out of the node that was just set.
        const to = e.isShift ? straightened(h.from, e.bare) : e.bare;
        const back: Px = [2 * h.from[0] - to[0], 2 * h.from[1] - to[1]];
        setNodes((now) =>
          h.closes
            ? now.map((n, i) =>
                i === 0 && first ? { ...n, before: [2 * n.at[0] - to[0], 2 * n.at[1] - to[1]] } : n,
              )
            : now.map((n, i) =>
                i === now.length - 1 ? { at: h.from, before: now.length > 1 ? back : null, after: to } : n,
              ),
        );
      },
      onUp: () => {
        const h = held.current;
        held.current = null;
        if (h?.closes) done(true);
      },
      onCancel: () => {
        // The node that the first finger set.
        if (held.current && !held.current.closes) setNodes((now) => now.slice(0, -1));
        held.current = null;
      },
      onKey: (e) => {
        if (e.key === "Enter") done(e.shiftKey);
        else if (e.key === "Backspace" || e.key === "Delete") {
          if (arcEnd) setArcEnd(null);
          else setNodes(nodes.slice(0, -1));
        } else if (e.key.toLowerCase() === "a" && !e.ctrlKey && !e.metaKey) setArc(!isArc);
        else return false;
        return true;
      },
    },
    overlay: (view) => (
      <Drawing
        view={view}
        line={{ nodes: arcEnd && hover ? withArc(hover) : nodes, is_closed: false }}
        next={!arcEnd && !held.current ? hover : null}
        closesAt={!isCut && nodes.length > 1 && first ? first.at : null}
        says={isArc && last ? (arcEnd ? "bulge" : "end") : null}
        at={hover}
      />
    ),
    tray: (
      <Tray
        words={
          isArc && last
            ? arcEnd
              ? "Arc: now a place that it runs through, its bulge."
              : "Arc: click its end; then its bulge. A goes back to straight lines and curves."
            : isCut
              ? "Draw a line across what is chosen; Enter cuts along it."
              : "Click for corners, drag for curves, A for arcs, Shift for 15°. The first node closes the line, Enter ends it open."
        }
        onDone={p.onDone}
      >
        <Catches />
        <Button className="text-xs" aria-pressed={isArc} onClick={() => setArc(!isArc)}>
          Arcs
        </Button>
        <Button
          className="text-xs"
          why={nodes.length < 2 && "Set two nodes first"}
          onClick={() => done(false)}
        >
          {isCut ? "Cut" : "End open"}
        </Button>
        {!isCut && (
          <Button
            className="text-xs"
            why={nodes.length < 2 && "Set two nodes first"}
            onClick={() => done(true)}
          >
            Close line
          </Button>
        )}
      </Tray>
    ),
  };
}

export const usePen = (p: ToolProps) => usePath(p, false);
export const useCut = (p: ToolProps) => usePath(p, true);

function Drawing(p: {
  view: CanvasView;
  line: DrawnLine;
  next: Px | null;
  closesAt: Px | null;
  /** What the next click places, beside the pointer. */
  says: string | null;
  at: Px | null;
}) {
  const { toScreen } = p.view;
  const last = p.line.nodes.at(-1);
  const d = pathOf([p.line], toScreen);
  const ahead = last && p.next ? pathOf([{ nodes: [last, corner(p.next)], is_closed: false }], toScreen) : "";
  const close = p.closesAt ? toScreen(p.closesAt) : null;
  const [px, py] = p.at ? toScreen(p.at) : [0, 0];
  const willClose = p.closesAt !== null && p.next !== null && distance(p.closesAt, p.next) < 1e-9;
  return (
    <g fill="none" pointerEvents="none" data-drawing={p.line.nodes.length}>
      <path d={d} stroke="#fff" strokeWidth={4} />
      <path d={d} stroke="var(--terracotta)" strokeWidth={1.8} />
      <path d={ahead} stroke="var(--terracotta)" strokeWidth={1.2} strokeDasharray="4 3" />
      {p.line.nodes.map((n) => {
        const [x, y] = toScreen(n.at);
        return (
          <g key={String(n.at)} stroke="var(--terracotta)">
            {[n.before, n.after].map(
              (h) => h && <path key={String(h)} d={`M${x} ${y}L${toScreen(h).join(" ")}`} />,
            )}
            <rect x={x - 3} y={y - 3} width={6} height={6} fill="#fff" />
          </g>
        );
      })}
      {p.says && p.at && (
        <g data-says>
          <Words x={px + 12} y={py - 10}>
            {p.says}
          </Words>
        </g>
      )}
      {close && (
        <>
          <circle cx={close[0]} cy={close[1]} r={8} stroke="var(--glaze)" strokeWidth={willClose ? 3 : 1.4} />
          {willClose && (
            <text x={close[0] + 12} y={close[1] + 16} fontSize={12} fill="var(--glaze)" data-closes>
              closes here
            </text>
          )}
        </>
      )}
    </g>
  );
}

/** Lines drawn in one go; they become few curves near the hand's way. */
export function useFreehand(p: ToolProps): ToolParts {
  const [points, setPoints] = useState<Px[]>([]);
  const isDown = useRef(false);
  return {
    events: {
      onDown: (e) => {
        isDown.current = true;
        setPoints([e.bare]);
      },
      onMove: (e) => {
        if (!isDown.current) return;
        setPoints((now) => (distance(now.at(-1) ?? e.bare, e.bare) * e.scale < 1.5 ? now : [...now, e.bare]));
      },
      onCancel: () => {
        isDown.current = false;
        setPoints([]);
      },
      onUp: (e) => {
        isDown.current = false;
        const [a, b] = [points[0], points.at(-1)];
        setPoints([]);
        if (!a || !b || points.length < 3) return;
        const isClosed = points.length > 8 && distance(a, b) * e.scale < 14;
        p.bench.change([
          {
            kind: "draw-freehand",
            points,
            // Two screen pixels: what a hand shakes.
            deviation: Math.min(50, Math.max(0.1, 2 / e.scale)),
            is_closed: isClosed,
            width: isClosed ? null : 2,
            use: drawnUse(p.bench.result.patches, points),
          },
        ]);
      },
    },
    overlay: (view) => {
      const d = points.length > 1 ? `M${points.map((q) => view.toScreen(q).join(" ")).join("L")}` : "";
      return (
        <g fill="none" pointerEvents="none">
          <path d={d} stroke="#fff" strokeWidth={4} />
          <path d={d} stroke="var(--terracotta)" strokeWidth={1.8} />
        </g>
      );
    },
    tray: (
      <Tray
        words="Draw in one go. A line that ends where it began is an area; others get a width of 2 mm, changed in the list."
        onDone={p.onDone}
      >
        {null}
      </Tray>
    ),
  };
}
