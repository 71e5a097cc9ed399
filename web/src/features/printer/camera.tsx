import { useEffect, useRef } from "react";
import type { ShapeLayer } from "../../api/generated/ShapeLayer";
import { useInterface } from "../../state/interface";
import type { Extent } from "../views/frame";
import { rgb } from "../views/look";
import { colours } from "../views/page-colours";
import { type Matrix, matrixOf, over, posedBy } from "./camera-view";

/** The print as a camera beside the bed sees it: layer on layer, as far as it has come. */
export function Camera(p: {
  shape: readonly ShapeLayer[];
  bed: readonly [number, number];
  /** The layer in hand; 0 before the first. */
  layer: number;
  height: number;
  nozzle: readonly [number, number] | null;
  extent: Extent;
  words: string;
}) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const { shape, bed, layer, height, nozzle, extent } = p;
  const isDark = useInterface((s) => s.isDark);
  // biome-ignore lint/correctness/useExhaustiveDependencies: by night the colours are others
  useEffect(() => {
    // The page's colours change after this one's effects.
    const later = requestAnimationFrame(() => {
      const at = canvas.current;
      const ctx = at?.getContext("2d");
      if (!at || !ctx) return;
      const dense = window.devicePixelRatio || 1;
      at.width = extent.width * dense;
      at.height = extent.height * dense;
      const colour = colours();
      const view = matrixOf(bed, extent, dense);
      plate(ctx, view, bed, [colour("var(--sunk)"), colour("var(--edge)"), colour("var(--line)")]);
      // Each layer is drawn dark as high as it is, then light on top: what the next leaves free is its top.
      let low = 0;
      for (const l of shape.filter((s) => s.number <= layer)) {
        // Where pieces are printed one by one, the next begins at the bed.
        if (l.top < low) low = 0;
        const steps = Math.max(1, Math.min(12, Math.ceil((l.top - low) * view.rise)));
        for (let k = 1; k <= steps; k++)
          laid(ctx, over(view, low + ((l.top - low) * k) / steps), l, k < steps);
        low = l.top;
      }
      if (nozzle) head(ctx, over(view, height), nozzle, [colour("var(--ink)"), colour("var(--stamp)")]);
    });
    return () => cancelAnimationFrame(later);
  }, [shape, bed, layer, height, nozzle, extent, isDark]);
  return (
    <canvas
      ref={canvas}
      style={{ width: extent.width, height: extent.height }}
      className="block"
      role="img"
      aria-label={p.words}
    />
  );
}

function set(ctx: CanvasRenderingContext2D, m: Matrix) {
  ctx.setTransform(m.a, m.b, m.c, m.d, m.e, m.f);
}

function plate(
  ctx: CanvasRenderingContext2D,
  view: ReturnType<typeof matrixOf>,
  [w, d]: readonly [number, number],
  [face, edge, line]: readonly [string, string, string],
) {
  set(ctx, over(view, -3));
  ctx.fillStyle = edge;
  ctx.fillRect(0, -d, w, d);
  set(ctx, over(view, 0));
  ctx.fillStyle = face;
  ctx.fillRect(0, -d, w, d);
  ctx.strokeStyle = line;
  ctx.lineWidth = 0.3;
  for (let x = 20; x < w; x += 20) stroke(ctx, [x, 0], [x, -d]);
  for (let y = 20; y < d; y += 20) stroke(ctx, [0, -y], [w, -y]);
}

function stroke(ctx: CanvasRenderingContext2D, a: readonly [number, number], b: readonly [number, number]) {
  ctx.beginPath();
  ctx.moveTo(a[0], a[1]);
  ctx.lineTo(b[0], b[1]);
  ctx.stroke();
}

function laid(ctx: CanvasRenderingContext2D, m: Matrix, layer: ShapeLayer, isSide: boolean) {
  for (const g of layer.groups) {
    for (const pose of g.poses) {
      set(ctx, posedBy(m, pose));
      for (const l of g.lines) {
        const path = new Path2D(l.path);
        ctx.fillStyle = ctx.strokeStyle = shaded(l.colour, isSide ? 0.68 : 1);
        ctx.lineWidth = l.width;
        if (l.kind !== "thin") ctx.fill(path, "evenodd");
        ctx.stroke(path);
        if (!isSide) {
          // The outermost line catches the light less than the face.
          ctx.strokeStyle = shaded(l.colour, 0.84);
          ctx.stroke(path);
        }
      }
    }
  }
}

const shaded = (c: readonly [number, number, number], k: number) => rgb(c.map((v) => Math.round(v * k)));

/** The nozzle, with its tip where it lays. */
function head(
  ctx: CanvasRenderingContext2D,
  m: Matrix,
  [x, y]: readonly [number, number],
  [body, tip]: readonly [string, string],
) {
  const [px, py] = [m.a * x + m.c * y + m.e, m.b * x + m.d * y + m.f];
  const size = Math.hypot(m.a, m.b) * 7;
  ctx.setTransform(1, 0, 0, 1, px, py);
  ctx.fillStyle = tip;
  ctx.beginPath();
  ctx.moveTo(0, 0);
  ctx.lineTo(size * 0.45, -size);
  ctx.lineTo(-size * 0.45, -size);
  ctx.fill();
  ctx.fillStyle = body;
  ctx.fillRect(-size * 0.9, -size * 2.6, size * 1.8, size * 1.6);
}
