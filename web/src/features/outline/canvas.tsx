import clsx from "clsx";
import { type Dispatch, type ReactNode, type SetStateAction, useMemo, useRef, useState } from "react";
import type { Bench } from "../../api/bench";
import { preparedUrl } from "../../api/client";
import { useInterface } from "../../state/interface";
import { moveOf } from "../../ui/length";
import { both } from "../../ui/use-long-press";
import { pinched, usePinch } from "../../ui/use-pinch";
import type { Px } from "../artwork/frame";
import { useExtent } from "../views/frame";
import { Crosshair, Millimetres, Patches, TrueSize, Underlay, ZoomButtons } from "./canvas-drawing";
import {
  type CanvasEvents,
  type CanvasView,
  fittedBox,
  type Pointing,
  SHAKE,
  type Zoom,
} from "./canvas-view";
import { type Caught, caughtAt, type Things, thingsOf, useCatches } from "./catches";
import { Guides, Rulers } from "./guides";
import { useChoosingToo } from "./long-press";
import { usePatchPaint } from "./patch-paint";
import { Settled } from "./settled";

interface Props {
  bench: Bench;
  chosen: readonly number[];
  events: CanvasEvents;
  /** How much of the picture shows under the patches, 0 to 1. */
  picture: number;
  /** Where the maker has zoomed to; none fits. */
  zoom: Zoom | null;
  setZoom: Dispatch<SetStateAction<Zoom | null>>;
  overlay: (view: CanvasView) => ReactNode;
}

const ROOM = 46;
/** Screen pixels within which something is caught. */
const REACH = 9;
/** The patches at true size on the picture they come from, to work on: zoomed by the wheel, moved with the middle button or Space. */
export function Canvas(p: Props) {
  const [element, setElement] = useState<HTMLDivElement | null>(null);
  const extent = useExtent(element);
  const side = useInterface((s) => s.side);
  const { result, design } = p.bench;
  const on = useCatches((s) => s.on);
  const { zoom: own, setZoom: setOwn } = p;
  const [pointer, setPointer] = useState<Caught | null>(null);
  const fingers = usePinch();
  const pan = useRef<{ x: number; y: number; at: Px } | null>(null);
  const isSpace = useRef(false);
  const isDown = useRef(false);
  const lastPress = useRef({ time: Number.NEGATIVE_INFINITY, x: 0, y: 0 });
  const { picture, outline: o, patches } = result;
  const paint = usePatchPaint(result);
  const isCatching = p.events.isCatching ?? false;
  const giveUp = () => {
    pan.current = null;
    isDown.current = false;
    p.events.onCancel?.();
  };
  const longPress = useChoosingToo(p.events, giveUp, (e) =>
    isCatching || !isDown.current ? null : pointing(e, toPicture(e)),
  );
  // What could be caught is looked at only when something catches.
  const things = useMemo(() => {
    const known = new Map<number | undefined, Things>();
    return (without?: number) => {
      const all = known.get(without) ?? thingsOf(design, without);
      known.set(without, all);
      return all;
    };
  }, [design]);
  if (!picture) return null;
  const mm = o?.mm_per_px ?? 1;
  const [px, py, pw, ph] = picture.part;
  // The view fits what is saved: what a hand just moves must not move the plan under it.
  const saved = design.result.outline;
  const box = fittedBox(design.result) ?? [pw, ph];
  const middle: Px = saved ? [saved.origin[0], saved.origin[1]] : [px + pw / 2, py + ph / 2];
  const fitted = Math.min(
    (extent.width - 2 * ROOM) / Math.max(box[0] ?? 1, 1e-6),
    (extent.height - 2 * ROOM) / Math.max(box[1] ?? 1, 1e-6),
  );
  const scale = own?.scale ?? Math.max(fitted, 1e-3);
  const at = own?.at ?? middle;
  const isFitted = Math.abs(scale / fitted - 1) < 1e-6 && at[0] === middle[0] && at[1] === middle[1];
  const flip = side === "tool" ? -1 : 1;
  const [cx, cy] = [extent.width / 2, extent.height / 2 - 6];
  const toScreen = ([x, y]: Px): Px => [cx + (x - at[0]) * scale * flip, cy + (y - at[1]) * scale];
  const toPicture = (e: { clientX: number; clientY: number }): Px => {
    const r = element?.getBoundingClientRect();
    return [
      at[0] + ((e.clientX - (r?.left ?? 0) - cx) / scale) * flip,
      at[1] + (e.clientY - (r?.top ?? 0) - cy) / scale,
    ];
  };
  const caught = (bare: Px, without?: number) => caughtAt(bare, REACH / scale, things(without), on);
  const catching = (bare: Px, isFree: boolean): Caught =>
    isCatching && !isFree ? caught(bare) : { at: bare, what: null };
  const pointing = (e: React.PointerEvent | React.MouseEvent, bare: Px, isDouble = false): Pointing => {
    const hit = (e.target as Element).closest?.("[data-patch]")?.getAttribute("data-patch");
    return {
      at: catching(bare, e.altKey).at,
      bare,
      scale,
      isShift: e.shiftKey || e.ctrlKey || e.metaKey,
      isAlt: e.altKey,
      patch: hit === undefined || hit === null ? null : Number(hit),
      isDouble,
    };
  };
  const zoom = (by: number, about: Px) => {
    const next = Math.min(400, Math.max(fitted / 8, scale * by));
    const k = 1 - scale / next;
    setOwn({ scale: next, at: [at[0] + (about[0] - at[0]) * k, at[1] + (about[1] - at[1]) * k] });
  };
  const view: CanvasView = { toScreen, x: scale * flip, y: scale, ...extent, catching: caught, pointer };

  /** Arrow keys move a crosshair while a tool draws, Space is the pointer's button; + and - zoom, 0 fits. */
  const byKey = (e: React.KeyboardEvent) => {
    if (e.target !== e.currentTarget) return;
    if (e.key === " ") isSpace.current = true;
    const about = pointer?.at ?? at;
    if (p.events.onKey?.(e)) e.preventDefault();
    else if (e.key === "+" || e.key === "-") zoom(e.key === "+" ? 1.25 : 0.8, about);
    else if (e.key === "0") setOwn(null);
    else if (isCatching) {
      const move = moveOf(e);
      const hand = (bare: Px): Pointing => ({
        at: bare,
        bare,
        scale,
        isShift: false,
        isAlt: false,
        patch: null,
        isDouble: false,
      });
      if (move) {
        const to: Px = [about[0] + (move[0] / mm) * flip, about[1] + move[1] / mm];
        setPointer({ at: to, what: null });
        p.events.onMove?.(hand(to));
      } else if (e.key === " ") {
        const caught = catching(about, false);
        p.events.onDown?.(hand(caught.at));
        p.events.onUp?.(hand(caught.at));
      } else return;
      e.preventDefault();
    }
  };
  const [left, top] = toScreen([px, py]);
  const [right] = toScreen([px + pw, py]);
  const [ox, oy] = toScreen(o ? [o.origin[0], o.origin[1]] : middle);

  return (
    <div
      ref={setElement}
      // A drawing board with keys of its own.
      role="application"
      aria-label="Plan"
      // biome-ignore lint/a11y/noNoninteractiveTabindex: keys move the tool's crosshair
      tabIndex={0}
      data-scale={scale}
      className={clsx(
        "absolute inset-0 touch-none overflow-hidden outline-glaze select-none",
        isCatching && "cursor-crosshair",
      )}
      onKeyDown={byKey}
      onKeyUp={(e) => {
        if (e.key === " ") isSpace.current = false;
      }}
      onWheel={(e) => zoom(Math.exp(-e.deltaY / 500), toPicture(e))}
      onPointerDown={(e) => {
        if ((e.target as Element).closest("[data-handle],[data-mark],button")) return;
        if (e.button === 1 || isSpace.current) {
          e.currentTarget.setPointerCapture(e.pointerId);
          pan.current = { x: e.clientX, y: e.clientY, at };
          return;
        }
        if (e.button !== 0) return;
        e.currentTarget.focus();
        isDown.current = true;
        // Presses say nothing of double clicks, so they are told by time and place.
        const before = lastPress.current;
        lastPress.current = { time: e.timeStamp, x: e.clientX, y: e.clientY };
        const isDouble =
          e.timeStamp - before.time < 400 && Math.hypot(e.clientX - before.x, e.clientY - before.y) <= SHAKE;
        const press = pointing(e, toPicture(e), isDouble);
        e.currentTarget.setPointerCapture(e.pointerId);
        p.events.onDown?.(press);
      }}
      onPointerMove={(e) => {
        const from = pan.current;
        if (from) {
          const by: Px = [((e.clientX - from.x) / scale) * flip, (e.clientY - from.y) / scale];
          setOwn({ scale, at: [from.at[0] - by[0], from.at[1] - by[1]] });
          return;
        }
        const bare = toPicture(e);
        if (isCatching) setPointer(catching(bare, e.altKey));
        p.events.onMove?.(pointing(e, bare));
      }}
      onPointerUp={(e) => {
        pan.current = null;
        if (!isDown.current) return;
        isDown.current = false;
        p.events.onUp?.(pointing(e, toPicture(e)));
      }}
      onPointerCancel={giveUp}
      {...both(
        longPress,
        fingers({
          onBegin: giveUp,
          // Several come between two frames: each goes on from the one before.
          onPinch: (pinch) => setOwn((z) => pinched(z ?? { scale, at }, pinch, fitted / 8, 400, flip)),
        }),
      )}
      onPointerLeave={() => setPointer(null)}
    >
      {extent.width > 0 && (
        <>
          {p.picture > 0 && (
            <Underlay
              src={preparedUrl(design.id, picture.key)}
              box={{ left, top, width: Math.abs(right - left), height: ph * scale }}
              opacity={p.picture}
              isMirrored={flip < 0}
            />
          )}
          <svg
            width={extent.width}
            height={extent.height}
            className="absolute inset-0 block"
            aria-hidden="true"
          >
            <Millimetres at={[ox, oy]} mm={scale / mm} isShown={o !== null} />
            <g
              transform={`translate(${cx} ${cy}) scale(${scale * flip} ${scale}) translate(${-at[0]} ${-at[1]})`}
            >
              <Patches
                patches={patches}
                paint={paint}
                chosen={p.chosen}
                isFaint={p.picture > 0}
                scale={scale}
              />
            </g>
            {o && (
              <TrueSize
                at={[ox, oy]}
                outline={o}
                scale={scale / mm}
                unit={design.document.unit}
                extent={extent}
              />
            )}
          </svg>
          {/* biome-ignore lint/a11y/useSemanticElements: a drawing with handles, not a form */}
          <svg
            width={extent.width}
            height={extent.height}
            className="pointer-events-none absolute inset-0 block"
            role="group"
            aria-label="On the plan"
          >
            <g className="pointer-events-auto">
              {o && <Guides bench={p.bench} view={view} toPicture={toPicture} />}
              {p.overlay(view)}
            </g>
            {isCatching && pointer && <Crosshair at={toScreen(pointer.at)} what={pointer.what} />}
          </svg>
          {o && (
            <Rulers
              bench={p.bench}
              view={view}
              mm={mm}
              origin={o ? [o.origin[0], o.origin[1]] : middle}
              toPicture={toPicture}
            />
          )}
          <Settled zoom={own} scale={scale} x={at[0]} y={at[1]} setZoom={setOwn} />
          <ZoomButtons
            what="plan"
            isFitted={isFitted}
            onZoom={(by) => zoom(by, at)}
            onFit={() => setOwn(null)}
          />
        </>
      )}
    </div>
  );
}
