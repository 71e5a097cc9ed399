import clsx from "clsx";
import { type ReactNode, useMemo, useRef, useState } from "react";
import type { Bench } from "../../api/bench";
import { preparedUrl } from "../../api/client";
import type { PictureView } from "../../api/generated/PictureView";
import { pinched, usePinch } from "../../ui/use-pinch";
import { ZoomButtons } from "../outline/canvas-drawing";
import type { Zoom } from "../outline/canvas-view";
import { useExtent } from "../views/frame";
import { Contours } from "./board-contours";
import { nodesOf, type Px } from "./frame";
import { Loupe } from "./loupe";

/** How a tool sees the board. */
export interface BoardView {
  picture: PictureView;
  /** Screen pixels to one of the picture. */
  scale: number;
  /** From pixels of the picture to those of the board's drawing. */
  toScreen: (p: Px) => Px;
  /** The node of a contour that lies within a few screen pixels, or the place itself. */
  caught: (p: Px) => Px;
  /** Where the pointer (or the crosshair of the keyboard) is, in pixels of the picture. */
  pointer: Px | null;
}

/** `near` is the place with a node near by caught. */
export interface BoardEvents {
  onDown?: (p: Px, near: Px) => void;
  onMove?: (p: Px, near: Px) => void;
  onUp?: (p: Px, near: Px) => void;
  /** What was begun with onDown is given up. */
  onCancel?: () => void;
}

interface Props {
  bench: Bench;
  /** How much of the picture is hidden, percent. */
  dim: number;
  showNodes: boolean;
  showLoupe: boolean;
  /** Only the picture, as it is. */
  isBare: boolean;
  cursor: "default" | "crosshair";
  events: BoardEvents;
  /** What the active tool draws over the picture. */
  children: (view: BoardView) => ReactNode;
}

/** Screen pixels within which a node is caught. */
const CATCHES = 9;
/** Nodes that are drawn at the most: more would hide the picture. */
const MOST_NODES = 6000;

/** The prepared picture with the contours as crisp lines over it; white under dark, legible on any colour. */
export function Board(p: Props) {
  const [element, setElement] = useState<HTMLDivElement | null>(null);
  const extent = useExtent(element);
  const [pointer, setPointer] = useState<Px | null>(null);
  const isDown = useRef(false);
  // Where the maker has zoomed to; none fits.
  const [zoom, setZoom] = useState<Zoom | null>(null);
  const fingers = usePinch();
  const pan = useRef<{ x: number; y: number; at: Px } | null>(null);
  const { result, design } = p.bench;
  const picture = result.picture;
  const inks = useMemo(() => result.patches.filter((q) => q.is_ink), [result.patches]);
  const allNodes = useMemo(() => lazily(() => inks.flatMap((q) => nodesOf(q.path))), [inks]);
  const nodes = p.showNodes ? allNodes().slice(0, MOST_NODES) : [];
  const paths = useMemo(() => inks.map((q) => q.path), [inks]);
  if (!picture) return <div ref={setElement} className="absolute inset-0 bg-sunk" />;

  const [x, y, w, h] = picture.part;
  const fitted = Math.min((extent.width - 40) / w, (extent.height - 56) / h);
  const scale = zoom?.scale ?? fitted;
  const seen: Px = zoom?.at ?? [x + w / 2, y + h / 2];
  const offset: Px = [extent.width / 2 - (seen[0] - x) * scale, extent.height / 2 - (seen[1] - y) * scale];
  const zoomed = (by: number, about: Px) => {
    const next = Math.min(100, Math.max(fitted / 4, scale * by));
    const k = 1 - scale / next;
    setZoom({ scale: next, at: [seen[0] + (about[0] - seen[0]) * k, seen[1] + (about[1] - seen[1]) * k] });
  };
  const giveUp = () => {
    pan.current = null;
    isDown.current = false;
    p.events.onCancel?.();
  };
  const box = { left: offset[0], top: offset[1], width: w * scale, height: h * scale };
  const toScreen = ([a, b]: Px): Px => [offset[0] + (a - x) * scale, offset[1] + (b - y) * scale];
  const toPicture = (clientX: number, clientY: number): Px => {
    const box = element?.getBoundingClientRect();
    return [
      x + (clientX - (box?.left ?? 0) - offset[0]) / scale,
      y + (clientY - (box?.top ?? 0) - offset[1]) / scale,
    ];
  };
  const caught = (at: Px): Px => {
    const best = nearest(allNodes(), at);
    return best && Math.hypot(best[0] - at[0], best[1] - at[1]) * scale <= CATCHES ? best : at;
  };
  const url = preparedUrl(design.id, picture.key);
  const bar = result.outline ? barOf(result.outline.mm_per_px, scale, design.document.unit) : null;

  /** Arrow keys move a crosshair, Space is the pointer's button; + and - zoom, 0 fits. */
  const byKey = (e: React.KeyboardEvent) => {
    const step = (e.shiftKey ? 10 : 1) * Math.max(1, 1 / scale);
    const moves: Record<string, Px> = {
      ArrowLeft: [-step, 0],
      ArrowRight: [step, 0],
      ArrowUp: [0, -step],
      ArrowDown: [0, step],
    };
    const hand = pointer ?? seen;
    const move = moves[e.key];
    if (move) {
      const to: Px = [hand[0] + move[0], hand[1] + move[1]];
      setPointer(to);
      p.events.onMove?.(to, caught(to));
    } else if (e.key === " ") {
      p.events.onDown?.(hand, caught(hand));
      p.events.onUp?.(hand, caught(hand));
    } else if (e.key === "+" || e.key === "-") zoomed(e.key === "+" ? 1.25 : 0.8, hand);
    else if (e.key === "0") setZoom(null);
    else return;
    e.preventDefault();
  };

  return (
    <div
      ref={setElement}
      // A drawing board with keys of its own.
      role="application"
      className={clsx(
        "absolute inset-0 touch-none overflow-hidden bg-sunk outline-glaze",
        p.cursor === "crosshair" && "cursor-crosshair",
      )}
      // biome-ignore lint/a11y/noNoninteractiveTabindex: keys move the tool's crosshair
      tabIndex={0}
      aria-label="Picture board"
      onKeyDown={byKey}
      onWheel={(e) => zoomed(Math.exp(-e.deltaY / 500), toPicture(e.clientX, e.clientY))}
      onPointerDown={(e) => {
        if (e.button === 1) {
          e.currentTarget.setPointerCapture(e.pointerId);
          pan.current = { x: e.clientX, y: e.clientY, at: seen };
          return;
        }
        if (e.button !== 0 || (e.target as Element).closest("[data-handle],button")) return;
        isDown.current = true;
        e.currentTarget.setPointerCapture(e.pointerId);
        const at = toPicture(e.clientX, e.clientY);
        p.events.onDown?.(at, caught(at));
      }}
      onPointerMove={(e) => {
        const from = pan.current;
        if (from) {
          const by = [(e.clientX - from.x) / scale, (e.clientY - from.y) / scale] as const;
          setZoom({ scale, at: [from.at[0] - by[0], from.at[1] - by[1]] });
          return;
        }
        const at = toPicture(e.clientX, e.clientY);
        setPointer(at);
        if (isDown.current || e.buttons === 0) p.events.onMove?.(at, caught(at));
      }}
      onPointerUp={(e) => {
        pan.current = null;
        if (!isDown.current) return;
        isDown.current = false;
        const at = toPicture(e.clientX, e.clientY);
        p.events.onUp?.(at, caught(at));
      }}
      {...fingers({
        onBegin: giveUp,
        // Several come between two frames: each goes on from the one before.
        onPinch: (pinch) => setZoom((z) => pinched(z ?? { scale, at: seen }, pinch, fitted / 4, 100)),
      })}
      onPointerCancel={giveUp}
      onPointerLeave={() => !isDown.current && setPointer(null)}
    >
      {scale > 0 && (
        <>
          <img
            src={url}
            alt={design.document.artwork.file_name}
            draggable={false}
            // A layer of its own: contours that change do not paint the picture again.
            className="pointer-events-none absolute max-w-none bg-white select-none will-change-transform"
            style={{ ...box, imageRendering: scale > 6 ? "pixelated" : undefined }}
          />
          <div
            className="pointer-events-none absolute bg-white will-change-transform"
            style={{
              ...box,
              opacity: p.isBare ? 0 : p.dim / 100,
            }}
          />
          {!p.isBare && (
            <Contours part={picture.part} box={box} dim={p.dim} inks={inks} trace={result.trace} />
          )}
          {!p.isBare && nodes.length > 0 && (
            <svg className="pointer-events-none absolute inset-0 size-full" aria-hidden="true">
              <path
                d={nodes.map((n) => squareAt(toScreen(n))).join("")}
                fill="#fff"
                stroke="#b4512b"
                strokeWidth={1.2}
                data-nodes={nodes.length}
              />
            </svg>
          )}
          {p.children({ picture, scale, toScreen, caught, pointer })}
          {p.showLoupe && pointer && (
            <Loupe
              picture={picture}
              url={url}
              paths={p.isBare ? [] : paths}
              nodes={p.isBare ? [] : nodes}
              at={pointer}
              screen={toScreen(pointer)}
              board={extent}
            />
          )}
        </>
      )}
      <ZoomButtons
        what="picture"
        isFitted={zoom === null}
        onZoom={(by) => zoomed(by, seen)}
        onFit={() => setZoom(null)}
      />
      {bar && (
        <div className="pointer-events-none absolute bottom-2 left-3 flex items-center gap-2 rounded-xs bg-tile/85 px-1.5 py-0.5 text-xs text-ink">
          <span className="h-1.5 border-x border-b border-ink" style={{ width: bar.px }} /> {bar.words}
        </div>
      )}
    </div>
  );
}

/** Works it out once, and only when it is asked for. */
function lazily<T>(make: () => T): () => T {
  let made: { it: T } | null = null;
  return () => {
    made ??= { it: make() };
    return made.it;
  };
}

function nearest(nodes: Px[], [x, y]: Px): Px | null {
  let [best, off] = [null as Px | null, Number.POSITIVE_INFINITY];
  for (const n of nodes) {
    const d = (n[0] - x) ** 2 + (n[1] - y) ** 2;
    if (d < off) [best, off] = [n, d];
  }
  return best;
}

const squareAt = ([x, y]: Px) => `M${(x - 2.5).toFixed(1)} ${(y - 2.5).toFixed(1)}h5v5h-5z`;

/** A scale bar of a round length, at most 160 screen pixels long. */
function barOf(mmPerPx: number, scale: number, unit: "mm" | "in"): { px: number; words: string } {
  const steps = [1, 2, 5].flatMap((n) => [0.1, 1, 10, 100].map((k) => n * k)).sort((a, b) => b - a);
  const one = unit === "in" ? 25.4 : 1;
  const length = steps.find((s) => ((s * one) / mmPerPx) * scale <= 160) ?? 0.1;
  return { px: ((length * one) / mmPerPx) * scale, words: `${length} ${unit}` };
}
