import type { Bench } from "../../api/bench";
import type { CanvasView } from "./canvas-view";

/**
 * The plate that the drawing is laid on, as it lies round the drawing: the drawing may be moved and turned on it, so the
 * plate is moved and turned the other way.
 */
export function Plate({ bench, view }: { bench: Bench; view: CanvasView }) {
  const { result } = bench;
  const { drawing_at: at, outline: o } = result;
  if (!at || !o || !result.edge_path) return null;
  const value = (name: string) => result.measures.find((m) => m.name === name)?.value ?? 0;
  const [ox, oy] = view.toScreen([o.origin[0], o.origin[1]]);
  const k = Math.abs(view.y) / o.mm_per_px;
  const mirror = Math.sign(view.x) * (result.is_mirrored ? -1 : 1);
  // From the last step to the first: shifted back, then turned back about the plate's middle.
  const steps = [
    `translate(${ox} ${oy}) scale(${k * mirror} ${k})`,
    `rotate(${value("turn")} ${at[0]} ${-at[1]})`,
    `translate(${-value("shift-x")} ${value("shift-y")})`,
  ];
  return (
    <path
      d={result.edge_path}
      transform={steps.join(" ")}
      fill="none"
      stroke="var(--soft)"
      strokeDasharray="10 4"
      strokeWidth={1.2}
      vectorEffect="non-scaling-stroke"
      pointerEvents="none"
      data-plate
    />
  );
}
