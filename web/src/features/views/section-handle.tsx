import { useEffect, useEffectEvent, useRef, useState } from "react";
import type { Bench } from "../../api/bench";
import type { Edit } from "../../api/generated/Edit";
import type { HandleView } from "../../api/generated/HandleView";
import { useInterface } from "../../state/interface";
import { layersTo, snapped, stepped, stepsOf, withUnit } from "../../ui/length";
import { REACH } from "../../ui/reach";
import { keyOf, type Placed } from "./section-places";

/** The edit that a handle makes. */
function editOf(handle: HandleView, mm: number): Edit[] {
  const value = `${Math.round(mm * 1e6) / 1e6} mm`;
  return handle.own === null
    ? [{ kind: "set-measure", name: handle.name, value }]
    : [{ kind: "set-tier-length", id: handle.own, name: handle.name, value }];
}

/** Half the width of what can be taken hold of, pixels. */
const WIDE = Math.max(15, REACH);

/** So much room above a handle its text takes, pixels; with less it stands beside it. */
const TEXT_ROOM = 26;

/** A height to be dragged, moved by arrow keys, or pressed to be typed: it snaps to printed layers and to the other heights, and to nothing with
 * Alt held. A finish is dragged sideways at its tip, and down at its foot. */
export function Handle(p: {
  bench: Bench;
  placed: Placed;
  /** Pixels to a millimetre, along and up. */
  k: number;
  kz: number;
}) {
  const { bench, k, kz } = p;
  const { tier, handle, x, y, edge } = p.placed;
  const isPointed = useInterface((s) => s.measure === handle.name);
  const drag = useRef<{ x: number; y: number; value: number; last: number } | null>(null);
  const [isHeld, setHeld] = useState(false);
  const layer = bench.result.layer;
  const unit = bench.design.document.unit;
  const measure = handle.own === null ? bench.result.measures.find((m) => m.name === handle.name) : undefined;
  const isFinish = handle.moves === "inset" || handle.moves === "depth";
  const at = handle.moves === "bottom" ? tier.bottom : tier.top;
  const lies =
    handle.moves === "inset"
      ? (tier.finish?.[0] ?? 0)
      : handle.moves === "depth"
        ? (tier.finish?.[1] ?? 0)
        : handle.is_down
          ? handle.base - at
          : at - handle.base;
  // Heights lie on the grid; what was typed is told to a thousandth.
  const value = Math.round(lies * 1000) / 1000;
  const [min, max] = [measure?.min ?? 0, measure?.max ?? 300];
  const bounded = (mm: number) => Math.min(max, Math.max(min, mm));
  const name = measure
    ? `${measure.group} ${measure.label.toLowerCase()}`
    : `${tier.name} ${handle.name.replace("-", " ")}`;

  const release = () => {
    drag.current = null;
    setHeld(false);
    useInterface.setState({ held: null });
  };

  // A handle that goes while it is held lets go. One that only goes with another's drag, as a finish that becomes nothing, changes nothing.
  const gone = useEffectEvent(() => {
    if (!drag.current) return;
    release();
    bench.settle();
  });
  useEffect(() => () => gone(), []);

  const moved = (e: { clientX: number; clientY: number; altKey: boolean }) => {
    const d = drag.current;
    if (!d) return null;
    const up = (d.y - e.clientY) / kz;
    if (handle.moves === "inset") return bounded(Math.round((d.value - (e.clientX - d.x) / k) * 20) / 20);
    if (handle.moves === "depth") return bounded(Math.round((d.value - up) * 10) / 10);
    const height = handle.is_down ? handle.base - d.value + up : handle.base + d.value + up;
    const others = bench.result.tiers.flatMap((t) => (t === tier ? [] : [t.top, t.bottom]));
    const near = others.find((o) => Math.abs(o - height) * kz < 5);
    const to = e.altKey ? Math.round(height * 100) / 100 : (near ?? snapped(height, bench.result));
    return bounded(handle.is_down ? handle.base - to : to - handle.base);
  };
  // What the drawing shows, not where the hand is: else each movement would draw the page once more.
  const words = isFinish
    ? `${withUnit(value, unit, 2)} ${handle.moves === "inset" ? "in" : "down"}`
    : `${withUnit(value, unit, 1)} · ${layersTo(handle.is_down ? handle.base - value : handle.base + value, bench.result)} layers`;
  return (
    <g
      role="slider"
      tabIndex={0}
      aria-label={name}
      aria-orientation={handle.moves === "inset" ? "horizontal" : "vertical"}
      aria-valuemin={min}
      aria-valuemax={max}
      aria-valuenow={value}
      aria-valuetext={withUnit(value, unit)}
      data-handle={handle.name}
      transform={`translate(${x} ${y})`}
      className={`${handle.moves === "inset" ? "cursor-ew-resize" : "cursor-ns-resize"} touch-none outline-none [&:focus-visible_.grip]:stroke-[3px]`}
      onPointerEnter={() => useInterface.setState({ measure: handle.name })}
      onPointerLeave={() => useInterface.setState({ measure: null })}
      onPointerDown={(e) => {
        e.currentTarget.setPointerCapture(e.pointerId);
        drag.current = { x: e.clientX, y: e.clientY, value, last: value };
        setHeld(true);
        useInterface.setState({ held: keyOf(handle) });
      }}
      onPointerMove={(e) => {
        const mm = moved(e);
        const d = drag.current;
        if (mm === null || !d || mm === d.last) return;
        d.last = mm;
        bench.preview(editOf(handle, mm));
      }}
      onPointerUp={() => {
        const d = drag.current;
        release();
        if (d && d.last !== d.value) bench.change(editOf(handle, d.last));
        // Pressed without being moved: it is to be typed.
        else if (d)
          document.querySelector<HTMLInputElement>(`[data-measure="${handle.name}"] input`)?.focus();
      }}
      onPointerCancel={() => {
        release();
        bench.settle();
      }}
      onKeyDown={(e) => {
        const steps = stepsOf(e);
        if (steps === 0) return;
        e.preventDefault();
        const step = isFinish ? 0.1 : layer;
        const way = handle.is_down ? -steps : steps;
        bench.change(editOf(handle, bounded(stepped(value, step, way))));
      }}
    >
      <rect
        x={-WIDE}
        y={-WIDE + 3}
        width={2 * WIDE}
        height={2 * Math.max(11, REACH)}
        fill="transparent"
        stroke="none"
      />
      {edge > y && (
        <path d={`M0 0V${edge - y}`} stroke="var(--glaze)" strokeDasharray="2 2" pointerEvents="none" />
      )}
      {isFinish ? (
        <path
          className="grip"
          d="M0 -5.5L5.5 0L0 5.5L-5.5 0Z"
          fill="var(--tile)"
          stroke={isPointed ? "var(--ink)" : "var(--glaze)"}
          strokeWidth={isPointed ? 3 : 1.8}
        />
      ) : (
        <>
          <rect
            className="grip"
            x="-11"
            y="-5.5"
            width="22"
            height="10"
            rx="3"
            fill="var(--glaze)"
            stroke={isPointed ? "var(--ink)" : "var(--tile)"}
            strokeWidth={isPointed ? 2.5 : 1.5}
          />
          <path d="M-5 -1.6H5M-5 1.4H5" stroke="var(--on-glaze)" strokeWidth="1.2" pointerEvents="none" />
        </>
      )}
      {(isHeld || isPointed) && (
        <text
          {...(y < TEXT_ROOM ? { x: -12, y: 4, textAnchor: "end" } : { y: -12, textAnchor: "middle" })}
          fontSize="12"
          fontWeight="700"
          className="text-glaze"
          stroke="var(--tile)"
          strokeWidth="4"
          paintOrder="stroke"
        >
          {words}
        </text>
      )}
    </g>
  );
}
