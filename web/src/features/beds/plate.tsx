import { type KeyboardEvent, type PointerEvent, useRef, useState } from "react";
import type { BedOnShelf } from "../../api/generated/BedOnShelf";
import type { BedPiece } from "../../api/generated/BedPiece";
import type { Place } from "../../api/generated/Place";
import type { Pose } from "../../api/generated/Pose";
import { moveOf, withUnit } from "../../ui/length";
import { Dimension } from "../views/drawing";
import type { Extent } from "../views/frame";
import { rgb } from "../views/look";
import { added, type Piece, turnedBy } from "./poses";

/** A piece with a place. */
const isLying = (p: BedPiece): p is Piece => p.place !== null;

/** The plate from above: pieces are chosen, dragged and turned on it. */
export function Plate(p: {
  bed: BedOnShelf;
  plate: number;
  extent: Extent;
  chosen: readonly number[];
  onChoose: (pieces: number[]) => void;
  onMove: (moved: { piece: number; place: Place }[]) => void;
  onRemove: (pieces: number[]) => void;
}) {
  const { bed, plate, extent, chosen } = p;
  const { size, designs, unit, conflicts } = bed.result;
  const [w, d] = size;
  const k = Math.min((extent.width - 96) / w, (extent.height - 66) / d);
  // The depth stands left of the bed, also on a phone.
  const [x0, y0] = [Math.max(78, (extent.width - w * k) / 2 + 12), (extent.height - d * k) / 2 - 10];
  const pieces = bed.document.pieces.filter(isLying).filter((q) => q.place.plate === plate);
  const [shift, setShift] = useState<[number, number] | null>(null);
  const from = useRef<[number, number] | null>(null);
  const bad = new Set(conflicts.filter((c) => c.is_grave && c.plate === plate).flatMap((c) => c.pieces));

  const move = (by: (pose: Pose) => Pose) =>
    p.onMove(
      pieces
        .filter((q) => chosen.includes(q.id))
        .map((q) => ({ piece: q.id, place: { plate, pose: by(q.place.pose) } })),
    );
  const down = (e: PointerEvent<SVGGElement>, id: number) => {
    if (e.button !== 0) return;
    e.currentTarget.setPointerCapture(e.pointerId);
    from.current = [e.clientX, e.clientY];
    if (e.shiftKey) p.onChoose(chosen.includes(id) ? chosen.filter((c) => c !== id) : [...chosen, id]);
    else if (!chosen.includes(id)) p.onChoose([id]);
  };
  const drag = (e: PointerEvent<SVGGElement>) => {
    if (!from.current) return;
    const [dx, dy] = [(e.clientX - from.current[0]) / k, (from.current[1] - e.clientY) / k];
    // A press that trembles is no drag.
    if (shift || Math.hypot(dx, dy) * k > 3) setShift([dx, dy]);
  };
  const up = () => {
    if (shift) move((pose) => added(pose, shift));
    from.current = null;
    setShift(null);
  };
  const press = (e: KeyboardEvent, id: number) => {
    const step = moveOf(e);
    if (step) move((pose) => added(pose, [step[0], -step[1]]));
    else if (e.key === "t" || e.key === "T") move((pose) => turnedBy(pose, e.shiftKey ? -15 : 15));
    else if (e.key === "Delete") p.onRemove([...chosen]);
    else if (e.key === "Enter" || e.key === " ") p.onChoose([id]);
    else return;
    e.preventDefault();
    e.stopPropagation();
  };
  const grid = (n: number) =>
    Array.from({ length: Math.max(0, Math.ceil(n / 10) - 1) }, (_, i) => (i + 1) * 10);
  return (
    // biome-ignore lint/a11y/useSemanticElements: a drawing with buttons in it is no form
    <svg
      width={extent.width}
      height={extent.height}
      className="block touch-none select-none"
      role="group"
      aria-label={`Bed ${plate + 1} from above`}
      onPointerDown={(e) => e.target === e.currentTarget && p.onChoose([])}
    >
      <rect
        x={x0}
        y={y0}
        width={w * k}
        height={d * k}
        rx="6"
        fill="var(--sunk)"
        stroke="var(--edge)"
        strokeWidth="1.5"
        onPointerDown={() => p.onChoose([])}
      />
      <g stroke="var(--line)" strokeWidth="0.8" pointerEvents="none">
        {grid(w).map((mm) => (
          <path key={`x${mm}`} d={`M${x0 + mm * k} ${y0}V${y0 + d * k}`} opacity={mm % 50 === 0 ? 1 : 0.45} />
        ))}
        {grid(d).map((mm) => (
          <path
            key={`y${mm}`}
            d={`M${x0} ${y0 + (d - mm) * k}H${x0 + w * k}`}
            opacity={mm % 50 === 0 ? 1 : 0.45}
          />
        ))}
      </g>
      {pieces.map((q) => {
        const design = designs.find((o) => o.id === q.design);
        const isChosen = chosen.includes(q.id);
        const pose = shift && isChosen ? added(q.place.pose, shift) : q.place.pose;
        return (
          // biome-ignore lint/a11y/useSemanticElements: a shape in a drawing cannot be an HTML button
          <g
            key={q.id}
            role="button"
            tabIndex={0}
            aria-pressed={isChosen}
            aria-label={`${design?.name ?? "Piece"}, ${withUnit(pose.x, unit, 1)} right, ${withUnit(pose.y, unit, 1)} up`}
            data-piece={q.id}
            className="cursor-grab outline-none [&:focus-visible>[data-outline]]:stroke-[3px]"
            transform={`translate(${x0 + pose.x * k} ${y0 + (d - pose.y) * k}) rotate(${-pose.degrees}) scale(${k})`}
            onPointerDown={(e) => down(e, q.id)}
            onPointerMove={drag}
            onPointerUp={up}
            onPointerCancel={() => {
              from.current = null;
              setShift(null);
            }}
            onKeyDown={(e) => press(e, q.id)}
            onFocus={(e) => e.currentTarget.matches(":focus-visible") && !isChosen && p.onChoose([q.id])}
          >
            {design?.shapes.map((s, n) => (
              <path
                // biome-ignore lint/suspicious/noArrayIndexKey: tiers have no names of their own here
                key={n}
                d={s.path}
                fill={s.colour ? rgb(s.colour) : "var(--sunk)"}
                fillRule="nonzero"
                stroke="var(--ink)"
                strokeOpacity="0.35"
                strokeWidth="0.8"
                vectorEffect="non-scaling-stroke"
              />
            ))}
            <path
              d={design?.outline ?? ""}
              data-outline
              fill="transparent"
              stroke={bad.has(q.id) ? "var(--terracotta)" : isChosen ? "var(--glaze)" : "var(--edge)"}
              strokeWidth={isChosen || bad.has(q.id) ? 2.4 : 1}
              strokeDasharray={bad.has(q.id) ? "6 3" : undefined}
              vectorEffect="non-scaling-stroke"
            />
          </g>
        );
      })}
      <Dimension
        from={[x0, y0 + d * k + 22]}
        to={[x0 + w * k, y0 + d * k + 22]}
        at={[
          [x0, y0 + d * k],
          [x0 + w * k, y0 + d * k],
        ]}
        text={withUnit(w, unit)}
      />
      <Dimension
        from={[x0 - 22, y0 + d * k]}
        to={[x0 - 22, y0]}
        at={[
          [x0, y0 + d * k],
          [x0, y0],
        ]}
        text={withUnit(d, unit)}
      />
    </svg>
  );
}
