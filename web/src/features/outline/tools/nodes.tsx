import { useEffect, useEffectEvent, useMemo, useRef, useState } from "react";
import { api } from "../../../api/client";
import type { DrawnLine } from "../../../api/generated/DrawnLine";
import type { Entry } from "../../../api/generated/Entry";
import type { Seen } from "../../../api/generated/Seen";
import { Button } from "../../../ui/button";
import { moveOf } from "../../../ui/length";
import type { Px } from "../../artwork/frame";
import { Tray } from "../../artwork/tools/tray";
import { corner, distance, movedNode, nearestOn, piecesOf, smooth, split } from "../lines";
import { PlaceFields } from "../place-fields";
import { canRound, rounded } from "../rounding";
import { Catches } from "./catches-menu";
import { linesIn, type Target, withLines } from "./node-lines";
import { type Grip, type Name, NodesDrawing, nameOf } from "./nodes-drawing";
import { RoundField } from "./round-field";
import { useSaves } from "./saves";
import { spotOf, type ToolParts, type ToolProps } from "./tool";

const CHOOSE_FIRST = "Choose a node first";

/** Nodes of a patch or of a drawn line: moved, added, deleted, made corners or smooth. */
export function useNodes(p: ToolProps & { entry: number | null }): ToolParts {
  const { bench } = p;
  const { result, design } = bench;
  const [target, setTarget] = useState<Target | null>(p.entry === null ? null : { id: p.entry });
  const [traced, setTraced] = useState<DrawnLine[] | null>(null);
  const [chosen, setChosen] = useState<ReadonlySet<Name>>(new Set());
  const grip = useRef<Grip | null>(null);
  const mm = result.outline?.mm_per_px ?? 1;
  const entries = design.document.changes;
  const isTarget = (e: Entry) =>
    target && ("id" in target ? e.id === target.id : "addedTo" in target && !target.addedTo.has(e.id));
  const entry = entries.find(isTarget);
  const saved = useMemo(() => (entry ? linesIn(entry.change) : traced), [entry, traced]);
  const changeOf = (next: DrawnLine[]) => {
    if (entry) return { kind: "set-change" as const, id: entry.id, change: withLines(entry.change, next) };
    if (!target || !("spot" in target)) return null;
    const { spot, use, seen, before } = target;
    return {
      kind: "add-change" as const,
      ...(before === undefined ? {} : { before }),
      change: { do: "nodes" as const, on: [spot], lines: next, use, seen },
    };
  };
  const { live, show, save } = useSaves({
    bench,
    editOf: changeOf,
    onAdded: (addedTo) => setTarget({ addedTo }),
  });
  const lines = live ?? saved ?? [];

  /** The entry whose nodes these are already. */
  const ownOf = (found: DrawnLine[]): number | undefined => {
    const at = found[0]?.nodes[0]?.at;
    const holds = (l: DrawnLine) => l.nodes.some((n) => at && distance(n.at, at) < 0.01);
    return entries.findLast((e) => linesIn(e.change)?.some(holds))?.id;
  };
  // The nodes of a patch come from the server: fewer than the pieces where it is made of many.
  const take = (patch: number) => {
    const view = result.patches[patch];
    if (!view) return;
    const seen: Seen = { area: (view.area ?? 0) / mm ** 2, span: view.span };
    setChosen(new Set());
    show(null);
    void api
      .nodes(design.id, patch)
      .then((found) => {
        const own = ownOf(found);
        setTarget(own !== undefined ? { id: own } : { spot: spotOf(view), use: view.use, seen });
        setTraced(found);
      })
      .catch(() => undefined);
  };
  // With a patch chosen already, its nodes are shown at once.
  const begin = useEffectEvent(() => {
    const [only] = p.chosen;
    if (p.entry === null) {
      if (only !== undefined) take(only);
      return;
    }
    // Of what is mirrored or repeated, one side is edited, before it is.
    const { entry } = p;
    const kind = entries.find((e) => e.id === entry)?.change.do;
    if (kind !== "mirror" && kind !== "repeat") return;
    void api
      .side(design.id, entry)
      .then(({ lines: found, spot, use, seen }) => {
        const own = ownOf(found);
        setTarget(own === undefined ? { spot, use, seen, before: entry } : { id: own });
        setTraced(found);
      })
      .catch(() => undefined);
  });
  useEffect(() => begin(), []);

  const eachChosen = (change: (line: DrawnLine, i: number) => DrawnLine["nodes"][number] | null) =>
    lines.map((line, l) => ({
      ...line,
      nodes: line.nodes.flatMap((n, i) => (chosen.has(nameOf(l, i)) ? (change(line, i) ?? []) : n)),
    }));
  const nudge = (by: Px) => save(eachChosen((line, i) => movedNode(line.nodes[i] ?? corner([0, 0]), by)));
  const makeCorners = () => save(eachChosen((line, k) => corner(line.nodes[k]?.at ?? [0, 0])));
  const remove = () => {
    const next = eachChosen(() => null).filter((l) => l.nodes.length >= (l.is_closed ? 3 : 2));
    setChosen(new Set());
    if (next.length > 0) save(next);
  };
  const one = chosen.size === 1 ? [...chosen][0] : undefined;
  const [l, i] = one?.split(":").map(Number) ?? [];
  const node = l !== undefined && i !== undefined ? lines[l]?.nodes[i] : undefined;

  const hit = (at: Px, reach: number): Grip | null => {
    let best: Grip | null = null;
    let off = reach;
    const offer = (name: Name, part: Grip["part"], q: Px | null) => {
      const d = q ? distance(q, at) : Number.POSITIVE_INFINITY;
      if (d < off && q) [best, off] = [{ name, part, from: q, lines, isNew: false }, d];
    };
    for (const [li, line] of lines.entries()) {
      for (const [ni, n] of line.nodes.entries()) {
        const name = nameOf(li, ni);
        offer(name, "at", n.at);
        if (chosen.has(name)) {
          offer(name, "before", n.before);
          offer(name, "after", n.after);
        }
      }
    }
    return best;
  };
  const dragged = (g: Grip, to: Px): DrawnLine[] => {
    const by: Px = [to[0] - g.from[0], to[1] - g.from[1]];
    return g.lines.map((line, li) => ({
      ...line,
      nodes: line.nodes.map((n, ni) => {
        const name = nameOf(li, ni);
        if (g.part === "at") return chosen.has(name) || name === g.name ? movedNode(n, by) : n;
        if (name !== g.name) return n;
        const other = g.part === "before" ? "after" : "before";
        const opposite = n[other];
        const wasSmooth =
          opposite !== null &&
          Math.abs(
            (g.from[0] - n.at[0]) * (opposite[1] - n.at[1]) - (g.from[1] - n.at[1]) * (opposite[0] - n.at[0]),
          ) <
            0.02 * distance(g.from, n.at) * distance(opposite, n.at);
        const length = distance(to, n.at) || 1;
        const turned: Px | null =
          wasSmooth && opposite
            ? [
                n.at[0] - ((to[0] - n.at[0]) / length) * distance(opposite, n.at),
                n.at[1] - ((to[1] - n.at[1]) / length) * distance(opposite, n.at),
              ]
            : opposite;
        return { ...n, [g.part]: to, [other]: turned };
      }),
    }));
  };

  return {
    events: {
      isCatching: true,
      onDown: (e) => {
        const g = hit(e.bare, 8 / e.scale);
        if (g) {
          if (g.part === "at") {
            const has = chosen.has(g.name);
            if (e.isShift) {
              const next = new Set(chosen);
              if (has) next.delete(g.name);
              else next.add(g.name);
              setChosen(next);
            } else if (!has) setChosen(new Set([g.name]));
          }
          grip.current = g;
          return;
        }
        // On a piece: a double click adds a node there.
        let best: { line: number; piece: number; t: number; off: number } | null = null;
        for (const [li, line] of lines.entries()) {
          for (const [ci, c] of piecesOf(line).entries()) {
            const n = nearestOn(c, e.bare);
            if (n.off < (best?.off ?? 7 / e.scale)) best = { line: li, piece: ci, t: n.t, off: n.off };
          }
        }
        const on = best as { line: number; piece: number; t: number } | null;
        if (on && e.isDouble) {
          setChosen(new Set([nameOf(on.line, on.piece + 1)]));
          save(lines.map((line, li) => (li === on.line ? split(line, on.piece, on.t) : line)));
        } else if (!on && e.patch !== null) take(e.patch);
        else if (!on) setChosen(new Set());
      },
      onMove: (e) => {
        const g = grip.current;
        if (!g) return;
        if (!g.isNew && distance(g.from, e.bare) * e.scale < 2) return;
        g.isNew = true;
        // A node does not catch itself.
        const to = distance(e.at, g.from) < 1e-6 ? e.bare : e.at;
        show(dragged(g, to));
      },
      onUp: () => {
        const g = grip.current;
        grip.current = null;
        if (g?.isNew && live) save(live);
      },
      onCancel: () => {
        grip.current = null;
      },
      onKey: (e) => {
        const key = e.key.toLowerCase();
        const move = moveOf(e);
        if (chosen.size > 0 && move) nudge([move[0] / mm, move[1] / mm]);
        else if (chosen.size > 0 && (key === "delete" || key === "backspace")) remove();
        else if (chosen.size > 0 && key === "x") makeCorners();
        else if (chosen.size > 0 && key === "s") save(eachChosen(smooth));
        else if (key === "n" && lines.length > 0) {
          // The next node along, for hands without a mouse.
          const names = lines.flatMap((line, li) => line.nodes.map((_, ni) => nameOf(li, ni)));
          const next = names[(names.indexOf(one ?? "0:-1") + 1) % names.length];
          if (next) setChosen(new Set([next]));
        } else if (key === "a" && (e.ctrlKey || e.metaKey))
          setChosen(new Set(lines.flatMap((line, li) => line.nodes.map((_, ni) => nameOf(li, ni)))));
        else return false;
        return true;
      },
    },
    overlay: (view) => <NodesDrawing view={view} lines={lines} chosen={chosen} />,
    tray: (
      <Tray
        words={
          lines.length === 0
            ? "Click a patch to take its nodes in hand."
            : `${lines.reduce((n, line) => n + line.nodes.length, 0)} nodes, ${chosen.size} chosen. Drag them; Shift for several; double-click a line for one more.`
        }
        onDone={p.onDone}
      >
        <Catches />
        {node && (
          <PlaceFields
            bench={bench}
            at={node.at}
            most={1000}
            onChange={(to) => nudge([to[0] - node.at[0], to[1] - node.at[1]])}
          />
        )}
        <Button
          className="text-xs"
          title="C"
          why={chosen.size === 0 && CHOOSE_FIRST}
          onClick={() => makeCorners()}
        >
          Corner
        </Button>
        <RoundField
          isOff={
            !lines.some((line, li) =>
              line.nodes.some((_, k) => chosen.has(nameOf(li, k)) && canRound(line, k)),
            )
          }
          unit={design.document.unit}
          onRound={(radius) => {
            const isChosen = (li: number) => (k: number) => chosen.has(nameOf(li, k));
            save(lines.map((line, li) => rounded(line, isChosen(li), radius / mm)));
            setChosen(new Set());
          }}
        />
        <Button
          className="text-xs"
          title="S"
          why={chosen.size === 0 && CHOOSE_FIRST}
          onClick={() => save(eachChosen(smooth))}
        >
          Smooth
        </Button>
        <Button className="text-xs" title="Delete" why={chosen.size === 0 && CHOOSE_FIRST} onClick={remove}>
          Delete
        </Button>
      </Tray>
    ),
  };
}
