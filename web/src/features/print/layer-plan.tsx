import { useEffect, useRef } from "react";
import type { BedLayerView } from "../../api/generated/BedLayerView";
import type { LinesView } from "../../api/generated/LinesView";
import { useInterface } from "../../state/interface";
import type { Box, Extent } from "../views/frame";
import { rgb } from "../views/look";
import { colours } from "../views/page-colours";

/** Our own look of each kind of line: tone tells them apart, colour helps; a mark along the middle tells those of equal tone. */
export const KINDS: Record<LinesView["kind"], { words: string; colour: string; mark?: string }> = {
  outer: { words: "outer wall", colour: "var(--ink)" },
  inner: { words: "wall", colour: "var(--glaze)" },
  thin: { words: "thin place", colour: "var(--terracotta)", mark: "0.6 0.6" },
  solid: { words: "solid", colour: "var(--stamp)" },
  infill: { words: "infill", colour: "var(--soft)" },
  brim: { words: "brim", colour: "var(--edge)", mark: "2 1" },
  skirt: { words: "skirt", colour: "var(--edge)" },
};

/** What is seen of a layer. */
export type Seen = Pick<BedLayerView, "layer" | "groups">;

/** What is seen of a layer, in plan and in the solid. */
export type SeenLayer = Pick<BedLayerView, "layer" | "top" | "groups" | "built">;

const ORDER = Object.keys(KINDS) as LinesView["kind"][];

export function kindsOf(layer: Seen | undefined): LinesView["kind"][] {
  return ORDER.filter((k) => layer?.groups.some((g) => g.lines.some((l) => l.kind === k)));
}

/** Thousands of thin lines are drawn faster by the processor than handed to a graphics card, and far faster than to one that is imitated. */
const SOFT: CanvasRenderingContext2DSettings = { willReadFrequently: true };

/** The lines of a layer, as wide as they are; `ahead` is what is still to be laid, faintly. Drawn on a canvas: a full bed has a megabyte
 * of lines a layer, and the slider is not to wait for them. */
export function LayerPlan(p: {
  layer: Seen;
  ahead?: Seen["groups"];
  box: Box;
  isBed: boolean;
  extent: Extent;
  byFilament: boolean;
  /** Outline of a place to look at. */
  mark?: string | null;
}) {
  const { layer, ahead, box, isBed, extent, byFilament, mark } = p;
  const canvas = useRef<HTMLCanvasElement>(null);
  const isDark = useInterface((s) => s.isDark);
  // biome-ignore lint/correctness/useExhaustiveDependencies: by night the colours are others
  useEffect(() => {
    // The page's colours change after this one's effects.
    const later = requestAnimationFrame(() => {
      const at = canvas.current;
      const ctx = at?.getContext("2d", SOFT);
      if (!at || !ctx) return;
      const dense = window.devicePixelRatio || 1;
      at.width = extent.width * dense;
      at.height = extent.height * dense;
      const k = Math.min((extent.width - 30) / box.width, (extent.height - 30) / box.height) * dense;
      const [x, y] = [
        at.width / 2 - (box.x + box.width / 2) * k,
        at.height / 2 - (box.y + box.height / 2) * k,
      ];
      const pen: Pen = { ctx, place: [k, x, y], byFilament, colour: colours() };
      ctx.setTransform(k, 0, 0, k, x, y);
      if (isBed) {
        ctx.fillStyle = pen.colour("var(--sunk)");
        ctx.strokeStyle = pen.colour("var(--edge)");
        ctx.lineWidth = (1.5 * dense) / k;
        ctx.fillRect(box.x, box.y, box.width, box.height);
        ctx.strokeRect(box.x, box.y, box.width, box.height);
      }
      if (ahead) draw(pen, ahead, 0.22);
      draw(pen, layer.groups, 1);
      if (mark) {
        ctx.setTransform(k, 0, 0, k, x, y);
        ctx.strokeStyle = pen.colour("var(--terracotta)");
        ctx.lineWidth = (2.5 * dense) / k;
        ctx.setLineDash([(5 * dense) / k, (3 * dense) / k]);
        ctx.stroke(new Path2D(mark));
        ctx.setLineDash([]);
      }
      at.setAttribute("data-drawn", String(layer.layer));
    });
    return () => cancelAnimationFrame(later);
  }, [layer, ahead, box.x, box.y, box.width, box.height, isBed, extent, byFilament, mark, isDark]);
  return (
    <canvas
      ref={canvas}
      style={{ width: extent.width, height: extent.height }}
      className="block"
      role="img"
      aria-label={`Layer ${layer.layer}`}
    />
  );
}

interface Pen {
  ctx: CanvasRenderingContext2D;
  /** Pixels a millimetre, and where the origin lies. */
  place: readonly [number, number, number];
  byFilament: boolean;
  /** A colour of the page, as the canvas knows it. */
  colour: (name: string) => string;
}

/** Lines as the canvas draws them: read once, drawn in many places and again when the slider comes back. */
const drawn = new WeakMap<LinesView, { path: Path2D; seams: Path2D }>();

function pathOf(l: LinesView) {
  let made = drawn.get(l);
  if (!made) {
    made = { path: new Path2D(l.path), seams: new Path2D(l.kind === "outer" ? seamsOf(l.path) : "") };
    drawn.set(l, made);
  }
  return made;
}

/** Lines where they lie. */
function draw({ ctx, place: [k, x, y], byFilament, colour }: Pen, groups: Seen["groups"], opacity: number) {
  ctx.lineJoin = "bevel";
  for (const g of groups) {
    for (const at of g.poses) {
      const turn = (-at.degrees * Math.PI) / 180;
      const [c, s] = [Math.cos(turn) * k, Math.sin(turn) * k];
      ctx.setTransform(c, s, -s, c, x + at.x * k, y - at.y * k);
      for (const l of g.lines) {
        const look = KINDS[l.kind];
        const { path, seams } = pathOf(l);
        ctx.globalAlpha = opacity * (l.kind === "infill" ? 0.75 : 1);
        ctx.strokeStyle = byFilament ? rgb(l.colour) : colour(look.colour);
        ctx.lineWidth = l.width * 0.92;
        ctx.lineCap = "butt";
        ctx.stroke(path);
        ctx.globalAlpha = opacity;
        if (look.mark) {
          ctx.strokeStyle = colour("var(--tile)");
          ctx.lineWidth = l.width * 0.25;
          ctx.setLineDash(look.mark.split(" ").map(Number));
          ctx.stroke(path);
          ctx.setLineDash([]);
        }
        if (l.kind === "outer") {
          ctx.strokeStyle = colour("var(--terracotta)");
          ctx.lineWidth = Math.max(1, l.width * 2);
          ctx.lineCap = "round";
          ctx.stroke(seams);
        }
      }
    }
  }
  ctx.globalAlpha = 1;
}

/** Where closed lines begin and end: a dot each. */
function seamsOf(path: string): string {
  return path
    .split("M")
    .filter((d) => d.endsWith("Z"))
    .map((d) => {
      const at = d.slice(0, d.indexOf("L"));
      return `M${at}L${at}`;
    })
    .join("");
}
