import { useRef, useState } from "react";
import type { Change } from "../../../api/generated/Change";
import type { PatchView } from "../../../api/generated/PatchView";
import { moveOf } from "../../../ui/length";
import { fixed } from "../../../ui/numbers";
import { REACH } from "../../../ui/reach";
import type { Px } from "../../artwork/frame";
import type { CanvasView, Pointing } from "../canvas-view";
import { RULER } from "../guides";
import { distance } from "../lines";
import { choosing, cornersOf, type Drag, type Effect, type PointerStep } from "./choosing";
import { useNudges } from "./nudges";
import { placed, type ToolParts, type ToolProps } from "./tool";

/** Chooses patches by click, frame (drag) or loop (drag with Alt), and moves, turns and scales those that are chosen. */
export function useChoose(p: ToolProps): ToolParts {
  const { bench, chosen, on, carried, setChosen } = p;
  const patches = bench.result.patches;
  const [drag, setDrag] = useState<Drag | null>(null);
  const nudge = useNudges(p);
  const mm = bench.result.outline?.mm_per_px ?? 1;

  const add = (change: Change) => bench.change([{ kind: "add-change", change }]);
  const act = (effect: Effect) => {
    switch (effect.kind) {
      case "choose":
        return setChosen(effect.chosen);
      case "preview-move":
        return bench.preview([{ kind: "add-change", change: placed(carried, { by: effect.by }) }]);
      case "move":
        return add(placed(carried, { by: effect.by }));
      case "settle":
        return bench.settle();
    }
  };
  const step = (kind: PointerStep["kind"]) => (e: Pointing) => {
    const next = choosing(drag, { ...e, kind }, { patches, chosen });
    setDrag(next.drag);
    next.effects.forEach(act);
  };

  return {
    events: {
      onDown: step("down"),
      onMove: step("move"),
      onUp: step("up"),
      onCancel: () => {
        setDrag(null);
        bench.settle();
      },
      onKey: (e) => {
        const move = moveOf(e);
        if (!move || on.length === 0) return false;
        nudge([move[0] / mm, move[1] / mm]);
        return true;
      },
    },
    overlay: (view) => (
      <>
        {drag && (drag.kind === "frame" || drag.kind === "loop") && (
          <path
            d={`M${(drag.kind === "loop" ? drag.places : cornersOf(drag.places)).map((q) => view.toScreen(q).join(" ")).join("L")}Z`}
            fill="var(--glaze)"
            fillOpacity={0.12}
            stroke="var(--glaze)"
            strokeDasharray="5 3"
            data-sweep={drag.kind}
          />
        )}
        {!drag && on.length > 0 && chosen.length > 0 && (
          <Grips
            key={String(chosen)}
            view={view}
            patches={chosen.flatMap((i) => patches[i] ?? [])}
            onPreview={(degrees, scale) =>
              bench.preview([{ kind: "add-change", change: placed(carried, { degrees, scale }) }])
            }
            onDone={(degrees, scale) => add(placed(carried, { degrees, scale }))}
          />
        )}
      </>
    ),
    tray: null,
  };
}

function spanOf(patches: readonly PatchView[]): [number, number, number, number] {
  const all = patches.map((q) => q.span);
  const of = (k: number, f: (...n: number[]) => number) => f(...all.map((s) => s[k] ?? 0));
  return [of(0, Math.min), of(1, Math.min), of(2, Math.max), of(3, Math.max)];
}

/** Half the width of a grip, pixels. */
const GRIP = Math.max(5, REACH);

/** The box of what is chosen, with a grip to scale it about its middle and one to turn it. */
function Grips(p: {
  view: CanvasView;
  patches: PatchView[];
  onPreview: (degrees: number, scale: number) => void;
  onDone: (degrees: number, scale: number) => void;
}) {
  const [l, t, r, b] = spanOf(p.patches);
  const { toScreen } = p.view;
  const middle = toScreen([(l + r) / 2, (t + b) / 2]);
  const corners = cornersOf([
    [l, t],
    [r, b],
  ]).map(toScreen);
  const [live, setLive] = useState<{ degrees: number; scale: number } | null>(null);
  const start = useRef<{ grip: "scale" | "turn"; at: Px } | null>(null);
  const top: Px = [middle[0], Math.max(RULER + 12, Math.min(...corners.map((c) => c[1])) - 26)];
  const value = (e: React.PointerEvent) => {
    const s = start.current;
    const box = e.currentTarget.closest("svg")?.getBoundingClientRect();
    if (!s || !box) return null;
    const at: Px = [e.clientX - box.left, e.clientY - box.top];
    if (s.grip === "scale") {
      const scale = distance(at, middle) / Math.max(1, distance(s.at, middle));
      return { degrees: 0, scale: Math.min(100, Math.max(0.01, Number(scale.toFixed(3)))) };
    }
    const angle = (q: Px) =>
      Math.atan2(middle[1] - q[1], (q[0] - middle[0]) * Math.sign(p.view.x)) * (180 / Math.PI);
    const turn = angle(at) - angle(s.at);
    const step = e.shiftKey ? 15 : 0.5;
    const rounded = Math.round(turn / step) * step;
    return { degrees: ((rounded + 540) % 360) - 180, scale: 1 };
  };
  const handlers = (grip: "scale" | "turn", at: Px) => ({
    onPointerDown: (e: React.PointerEvent) => {
      e.currentTarget.setPointerCapture(e.pointerId);
      start.current = { grip, at };
    },
    onPointerMove: (e: React.PointerEvent) => {
      const now = value(e);
      if (!now) return;
      setLive(now);
      p.onPreview(now.degrees, now.scale);
    },
    onPointerUp: () => {
      start.current = null;
      if (live) p.onDone(live.degrees, live.scale);
      setLive(null);
    },
  });
  const corner = corners[2] ?? middle;
  return (
    <g stroke="var(--terracotta)" fill="none">
      <path d={`M${corners.map((c) => c.join(" ")).join("L")}Z`} strokeDasharray="3 3" pointerEvents="none" />
      <path d={`M${middle[0]} ${top[1] + 6}V${Math.min(...corners.map((c) => c[1]))}`} pointerEvents="none" />
      <rect
        data-handle
        data-grip="scale"
        x={corner[0] - GRIP}
        y={corner[1] - GRIP}
        width={2 * GRIP}
        height={2 * GRIP}
        fill="var(--tile)"
        className="cursor-nwse-resize touch-none"
        {...handlers("scale", corner)}
      >
        <title>Scale about the middle</title>
      </rect>
      <circle
        data-handle
        data-grip="turn"
        cx={top[0]}
        cy={top[1]}
        r={GRIP + 1}
        fill="var(--tile)"
        className="cursor-grab touch-none"
        {...handlers("turn", top)}
      >
        <title>Turn; Shift for whole 15 degrees</title>
      </circle>
      {live && (
        <text x={top[0] + 12} y={top[1] + 4} fontSize={12} fill="var(--terracotta)" stroke="none">
          {live.scale === 1 ? `${fixed(live.degrees, 1)}°` : `${fixed(live.scale * 100, 1)} %`}
        </text>
      )}
    </g>
  );
}
