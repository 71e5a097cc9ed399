import { useEffect, useId, useRef, useState } from "react";
import type { Bench } from "../../api/bench";
import type { MeasureView } from "../../api/generated/MeasureView";
import { type Side, useInterface } from "../../state/interface";
import { shown, snapped, stepped, stepsOf, withUnit } from "../../ui/length";
import { Dimension, Hatches } from "./drawing";
import { type Extent, useExtent } from "./frame";

interface Props {
  bench: Bench;
  side: Side;
  /** Pixels to a millimetre: that of the plan above. */
  scale: number;
}

/** Cut through from the side, to scale and straight under the plan. */
export function Section(p: Props) {
  const [element, setElement] = useState<HTMLDivElement | null>(null);
  const extent = useExtent(element);
  return (
    <div ref={setElement} className="absolute inset-0">
      {extent.width > 0 && <SectionDrawing {...p} extent={extent} />}
    </div>
  );
}

/** Height of a measure above the bed; stamp lines are measured down from the wall's top. */
const HANDLES = [
  { role: "wall", measure: "wall-height" },
  { role: "flange", measure: "flange-height" },
] as const;

function SectionDrawing({ bench, side, scale, extent }: Props & { extent: Extent }) {
  const id = useId();
  const { result, design } = bench;
  const isDragging = useInterface((s) => s.isDragging);
  const unit = design.document.unit;
  const k = scale;
  // Cuts come as the tool is printed.
  const flip = (side === "tool" ? 1 : -1) * (result.is_mirrored ? 1 : -1);
  const [cx, bed] = [extent.width / 2, extent.height - 30];
  const xOf = (mm: number) => cx + flip * mm * k;
  const yOf = (mm: number) => bed - mm * k;
  const rects = result.section.map((c) => {
    const [a, b] = [xOf(c.x[0]), xOf(c.x[1])].sort((m, n) => m - n) as [number, number];
    return { role: c.role, x: a, width: b - a, top: c.z[1], y: yOf(c.z[1]), height: (c.z[1] - c.z[0]) * k };
  });
  const of = (role: string) => rects.filter((r) => r.role === role);
  const left = Math.min(...rects.map((r) => r.x), cx);
  const right = Math.max(...rects.map((r) => r.x + r.width), cx);
  const top = Math.max(0, ...rects.map((r) => r.top));
  // Dimensions stand beside what is outermost on the screen.
  const last = (role: string) => of(role).toSorted((a, b) => b.x - a.x)[0];
  const [wall, stamp] = [last("wall"), last("stamp")];
  const flange = of("flange").toSorted((a, b) => a.x - b.x)[0];
  const measure = (name: string) => result.measures.find((m) => m.name === name);
  const height = measure("wall-height");
  // Where the line crosses a wall at a slant, its cut is wider than it is thick: then it bears no figure.
  const isSquare = wall && Math.abs(wall.width / k - (measure("wall-thickness")?.value ?? 0)) < 0.06;
  // Layer lines only where they can be told apart.
  const each = [1, 5, 10, 25].find((n) => n * result.layer * k >= 5) ?? 50;
  const lines = Math.floor(top / result.layer / each);
  return (
    // biome-ignore lint/a11y/useSemanticElements: a drawing that holds sliders is a group; SVG has no fieldset
    <svg width={extent.width} height={extent.height} className="block" role="group" aria-label="Section A–A">
      <Hatches id={id} />
      <g stroke="var(--line)" strokeWidth="1" opacity="0.8">
        {Array.from({ length: lines }, (_, i) => {
          const y = yOf((i + 1) * each * result.layer);
          return <path key={y} d={`M${left - 30} ${y}H${right + 30}`} />;
        })}
      </g>
      {rects.map((r) => (
        <rect
          key={`${r.role}-${r.x}`}
          x={r.x}
          y={r.y}
          width={r.width}
          height={r.height}
          fill={`url(#${id}-${r.role})`}
          stroke="var(--ink)"
          strokeWidth="1.3"
          data-cut={r.role}
        />
      ))}
      <path d={`M${left - 40} ${bed}H${right + 40}`} stroke="var(--ink)" strokeWidth="1.8" />
      <path
        d={`M${cx} ${yOf(top) - 8}V${bed + 8}`}
        stroke="var(--soft)"
        strokeDasharray="12 3 2 3"
        strokeWidth="0.9"
      />
      {flange && (
        <Dimension
          from={[left - 22, bed]}
          to={[left - 22, flange.y]}
          at={[
            [left - 4, bed],
            [left - 4, flange.y],
          ]}
          text={shown(flange.top, unit, 1)}
        />
      )}
      {stamp && (
        <Dimension
          from={[stamp.x + stamp.width + 14, bed]}
          to={[stamp.x + stamp.width + 14, stamp.y]}
          text={shown(stamp.top, unit, 1)}
        />
      )}
      {wall && (
        <>
          <Dimension
            from={[right + 34, bed]}
            to={[right + 34, wall.y]}
            at={[
              [wall.x + wall.width + 2, bed],
              [wall.x + wall.width + 2, wall.y],
            ]}
            text={shown(wall.top, unit, 1)}
            isLive
          />
          {isSquare && (
            <>
              <Dimension
                from={[wall.x, bed + 16]}
                to={[wall.x + wall.width, bed + 16]}
                at={[
                  [wall.x, bed],
                  [wall.x + wall.width, bed],
                ]}
                text=""
              />
              <text x={wall.x - 12} y={bed + 20} textAnchor="end" fontSize="12" fontWeight="500">
                {shown(measure("wall-thickness")?.value ?? 0, unit, 1)}
              </text>
            </>
          )}
        </>
      )}
      {height && wall && !isDragging && (
        <text
          x={right + 40}
          y={wall.y - 6}
          textAnchor="end"
          fontSize="11.5"
          fontWeight="600"
          className="text-glaze"
        >
          {height.layers} layers
        </text>
      )}
      {HANDLES.map((h) => {
        const m = measure(h.measure);
        const cut = h.role === "wall" ? wall : flange;
        if (!m || !cut) return null;
        return <Handle key={h.role} bench={bench} measure={m} x={cut.x + cut.width / 2} y={cut.y} k={k} />;
      })}
    </svg>
  );
}

/** The top of a cut face, to be dragged or moved by arrow keys; it snaps to printed layers. */
function Handle(p: { bench: Bench; measure: MeasureView; x: number; y: number; k: number }) {
  const { bench, measure, k } = p;
  const drag = useRef<{ from: number; value: number; last: number } | null>(null);
  const [live, setLive] = useState<number | null>(null);
  const layer = bench.result.layer;
  const unit = bench.design.document.unit;
  const edit = (mm: number) => [{ kind: "set-measure" as const, name: measure.name, value: `${mm} mm` }];
  const bounded = (mm: number) => Math.min(measure.max, Math.max(measure.min, mm));
  const name = `${measure.group} ${measure.label.toLowerCase()}`;

  const release = () => {
    drag.current = null;
    setLive(null);
    useInterface.setState({ isDragging: false });
  };

  // A drag that ends outside the window ends all the same.
  useEffect(() => () => bench.settle(), [bench.settle]);

  return (
    <g
      role="slider"
      tabIndex={0}
      aria-label={name}
      aria-orientation="vertical"
      aria-valuemin={measure.min}
      aria-valuemax={measure.max}
      aria-valuenow={live ?? measure.value}
      aria-valuetext={withUnit(live ?? measure.value, unit)}
      data-handle={measure.name}
      transform={`translate(${p.x} ${p.y})`}
      className="cursor-ns-resize touch-none outline-none [&:focus-visible_rect]:stroke-[3px]"
      onPointerDown={(e) => {
        e.currentTarget.setPointerCapture(e.pointerId);
        drag.current = { from: e.clientY, value: measure.value, last: measure.value };
        useInterface.setState({ isDragging: true });
      }}
      onPointerMove={(e) => {
        const d = drag.current;
        if (!d) return;
        const mm = bounded(snapped(d.value + (d.from - e.clientY) / k, layer));
        if (mm === d.last) return;
        d.last = mm;
        setLive(mm);
        bench.preview(edit(mm));
      }}
      onPointerUp={() => {
        const d = drag.current;
        release();
        if (d && d.last !== d.value) bench.change(edit(d.last));
      }}
      onPointerCancel={() => {
        release();
        bench.settle();
      }}
      onKeyDown={(e) => {
        const steps = stepsOf(e);
        if (steps === 0) return;
        e.preventDefault();
        bench.change(edit(bounded(stepped(measure.value, layer, steps))));
      }}
    >
      <rect x="-17" y="-17" width="34" height="26" fill="transparent" stroke="none" />
      <rect
        x="-12"
        y="-6"
        width="24"
        height="11"
        rx="3"
        fill="var(--glaze)"
        stroke="var(--tile)"
        strokeWidth="1.5"
      />
      <path d="M-6 -1.6H6M-6 1.4H6" stroke="var(--on-glaze)" strokeWidth="1.2" pointerEvents="none" />
      {live !== null && (
        <text y="-12" textAnchor="middle" fontSize="12" fontWeight="700" className="text-glaze">
          {withUnit(live, unit, 1)} · {Math.round(live / layer)} layers
        </text>
      )}
    </g>
  );
}
