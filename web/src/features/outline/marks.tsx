import { useRef, useState } from "react";
import type { Bench } from "../../api/bench";
import type { Change } from "../../api/generated/Change";
import type { Entry } from "../../api/generated/Entry";
import type { PxPoint } from "../../api/generated/PxPoint";
import { moveOf } from "../../ui/length";
import { REACH } from "../../ui/reach";
import type { CanvasView } from "./canvas-view";
import type { Caught } from "./catches";

/** The place that a change has on the picture, and the change with another one. */
function placeOf(c: Change): { at: PxPoint; label: string; moved: (to: PxPoint) => Change } | null {
  switch (c.do) {
    case "shape":
      return { at: c.at, label: "Middle of the shape", moved: (at) => ({ ...c, at }) };
    case "text":
      return { at: c.at, label: "Foot of the text", moved: (at) => ({ ...c, at }) };
    case "paste":
      return { at: c.at, label: "Place of the added patches", moved: (at) => ({ ...c, at }) };
    case "repeat":
      return { at: c.centre, label: "Centre of the repeat", moved: (centre) => ({ ...c, centre }) };
    case "mirror":
      return { at: c.through, label: "Mirror line", moved: (through) => ({ ...c, through }) };
    default:
      return null;
  }
}

/** Handles of the changes that have a place: drag them (they catch what the pen catches, but with Alt), or move them by the arrow keys in millimetres. */
export function Marks({ bench, frame }: { bench: Bench; frame: CanvasView }) {
  return bench.design.document.changes
    .filter((e) => e.is_on)
    .map((e) => <Mark key={e.id} bench={bench} frame={frame} entry={e} />);
}

function Mark({ bench, frame, entry }: { bench: Bench; frame: CanvasView; entry: Entry }) {
  const place = placeOf(entry.change);
  const [live, setLive] = useState<Caught | null>(null);
  const start = useRef<{ x: number; y: number; at: PxPoint } | null>(null);
  if (!place) return null;
  const at = live?.at ?? place.at;
  const [x, y] = frame.toScreen(at);
  const edit = (to: PxPoint) => [{ kind: "set-change" as const, id: entry.id, change: place.moved(to) }];
  const mm = bench.result.outline?.mm_per_px ?? 1;
  return (
    <g>
      {entry.change.do === "mirror" && <Axis frame={frame} at={[x, y]} degrees={entry.change.degrees} />}
      {entry.change.do === "mirror" && entry.change.is_quarter && (
        <Axis frame={frame} at={[x, y]} degrees={entry.change.degrees + 90} />
      )}
      {entry.change.do === "mirror" && <Sides frame={frame} at={[x, y]} degrees={entry.change.degrees} />}
      {/* biome-ignore lint/a11y/useSemanticElements: a drawing has no buttons of its own */}
      <g
        role="button"
        tabIndex={0}
        aria-label={place.label}
        data-mark={entry.change.do}
        className="cursor-move touch-none outline-glaze"
        transform={`translate(${x} ${y})`}
        onPointerDown={(e) => {
          e.currentTarget.setPointerCapture(e.pointerId);
          start.current = { x: e.clientX, y: e.clientY, at: place.at };
        }}
        onPointerMove={(e) => {
          const s = start.current;
          if (!s) return;
          const bare: PxPoint = [
            s.at[0] + (e.clientX - s.x) / frame.x,
            s.at[1] + (e.clientY - s.y) / frame.y,
          ];
          const to = e.altKey ? { at: bare, what: null } : frame.catching(bare, entry.id);
          setLive(to);
          bench.preview(edit(to.at));
        }}
        onPointerUp={() => {
          start.current = null;
          if (live) bench.change(edit(live.at));
          setLive(null);
        }}
        onKeyDown={(e) => {
          const move = moveOf(e);
          if (!move) return;
          const [dx, dy] = [move[0] / mm, move[1] / mm];
          e.preventDefault();
          bench.change(edit([place.at[0] + dx * Math.sign(frame.x), place.at[1] + dy]));
        }}
      >
        <circle
          r={Math.max(9, REACH)}
          fill="var(--tile)"
          fillOpacity={0.85}
          stroke="var(--terracotta)"
          strokeWidth={2}
        />
        <path d="M-13 0H13M0-13V13" stroke="var(--terracotta)" strokeWidth={1.2} />
        {live?.what && (
          <text x={14} y={-12} fontSize={11} fill="var(--terracotta)" data-caught={live.what}>
            {live.what}
          </text>
        )}
      </g>
    </g>
  );
}

/** Which side of a mirror line is the original and which its image. */
function Sides({ frame, at: [x, y], degrees }: { frame: CanvasView; at: PxPoint; degrees: number }) {
  const a = (degrees * Math.PI) / 180;
  // To the left of the line, on the screen.
  const [dx, dy] = [-Math.sin(a) * Math.sign(frame.x), -Math.cos(a)];
  return [
    { words: "original", side: 1 },
    { words: "image", side: -1 },
  ].map(({ words, side }) => (
    <text
      key={words}
      x={x + dx * 40 * side}
      y={y + dy * 24 * side + 4}
      textAnchor="middle"
      fontSize={11}
      fill="var(--terracotta)"
      stroke="var(--tile)"
      strokeWidth={3}
      paintOrder="stroke"
      pointerEvents="none"
      data-side={words}
    >
      {words}
    </text>
  ));
}

/** A centre line: dash-dot, right across the drawing. */
function Axis({ frame, at: [x, y], degrees }: { frame: CanvasView; at: PxPoint; degrees: number }) {
  const a = (degrees * Math.PI) / 180;
  const far = frame.width + frame.height;
  const [dx, dy] = [Math.cos(a) * far * Math.sign(frame.x), -Math.sin(a) * far];
  return (
    <path
      d={`M${x - dx} ${y - dy}L${x + dx} ${y + dy}`}
      stroke="var(--terracotta)"
      strokeWidth={1.2}
      strokeDasharray="14 4 2 4"
      pointerEvents="none"
    />
  );
}
