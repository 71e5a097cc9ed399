import type { Bench } from "../../api/bench";
import { moveOf, withUnit } from "../../ui/length";
import { REACH } from "../../ui/reach";
import { useDrag } from "./drag";
import { lieEdits, lieOf, moved } from "./lie";

/** Moves and turns the drawing on its plate: a cross in the drawing's middle, and a grip beside it. In the plan's world. */
export function PlaceHandle({ bench, k, flip }: { bench: Bench; k: number; flip: number }) {
  const at = bench.result.drawing_at;
  const { now, handle, save } = useDrag(bench, lieOf(bench.design.result), lieEdits);
  if (!at) return null;
  const [x, y] = [at[0] + now.x, -(at[1] + now.y)];
  const reach = 46 / k;
  const angle = (-now.turn * Math.PI) / 180;
  const grip = [x + reach * Math.cos(angle), y + reach * Math.sin(angle)] as const;
  const unit = bench.design.document.unit;
  return (
    <g stroke="var(--glaze)" fill="var(--tile)" data-testid="place">
      <path d={`M${x} ${y}L${grip[0]} ${grip[1]}`} strokeDasharray="3 3" vectorEffect="non-scaling-stroke" />
      <g
        role="slider"
        tabIndex={0}
        aria-label="Place of the drawing"
        aria-valuenow={now.x}
        aria-valuetext={`${withUnit(now.x, unit)} to the right, ${withUnit(now.y, unit)} up`}
        className="cursor-move touch-none outline-none focus-visible:[stroke-width:3]"
        {...handle((from, dx, dy) => moved(from, (dx / k) * flip, -dy / k))}
        onKeyDown={(e) => {
          const move = moveOf(e);
          if (!move) return;
          e.preventDefault();
          save(moved(now, move[0] * flip, -move[1]));
        }}
      >
        <circle
          cx={x}
          cy={y}
          r={Math.max(9, REACH) / k}
          fillOpacity={0.85}
          vectorEffect="non-scaling-stroke"
        />
        <path
          d={`M${x - 13 / k} ${y}h${26 / k}M${x} ${y - 13 / k}v${26 / k}`}
          vectorEffect="non-scaling-stroke"
        />
      </g>
      <circle
        role="slider"
        tabIndex={0}
        aria-label="Turn of the drawing"
        aria-valuemin={-360}
        aria-valuemax={360}
        aria-valuenow={now.turn}
        aria-valuetext={`${now.turn} degrees`}
        cx={grip[0]}
        cy={grip[1]}
        r={Math.max(6, REACH) / k}
        vectorEffect="non-scaling-stroke"
        className="cursor-grab touch-none outline-none focus-visible:[stroke-width:3]"
        {...handle((from, _dx, _dy, e) => {
          const world = (e.currentTarget.parentNode as SVGGElement | null)?.getScreenCTM();
          if (!world) return null;
          const p = new DOMPoint(e.clientX, e.clientY).matrixTransform(world.inverse());
          const degrees = (-Math.atan2(p.y - y, p.x - x) * 180) / Math.PI;
          const step = e.shiftKey ? 15 : 1;
          return { ...from, turn: Math.round(degrees / step) * step };
        })}
        onKeyDown={(e) => {
          const move = moveOf(e);
          if (!move) return;
          e.preventDefault();
          save({ ...now, turn: Math.round(now.turn + move[0] - move[1]) });
        }}
      />
    </g>
  );
}
