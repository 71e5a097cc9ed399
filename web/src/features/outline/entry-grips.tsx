import { useRef, useState } from "react";
import type { Bench } from "../../api/bench";
import type { Change } from "../../api/generated/Change";
import type { Entry } from "../../api/generated/Entry";
import { shown, stepsOf, withUnit } from "../../ui/length";
import { fixed } from "../../ui/numbers";
import { REACH } from "../../ui/reach";
import type { Px } from "../artwork/frame";
import type { CanvasView } from "./canvas-view";
import { atLocal, bentBy, bow, type Local, localOf, turnedTo } from "./local";

/** Half the width of a grip, pixels. */
const HALF = Math.max(5, REACH);
/** How far beyond what it turns a grip for turning stands, and how far beside the foot one for bending, pixels. */
const BEYOND = 26;
const BESIDE = 60;

type Placed = Extract<Change, { do: "text" | "shape" }>;

interface GripOf {
  name: string;
  /** Square to size, round to bend and turn. */
  isRound: boolean;
  at: Local;
  value: number;
  words: string;
  /** What a hand at a place means; `isEven` asks for round steps. */
  moved: (to: Local, isEven: boolean) => Placed;
  stepped: (steps: number) => Placed;
}

const tenth = (mm: number) => Math.round(mm * 10) / 10;
const within = (v: number, least: number, most: number) => Math.min(most, Math.max(least, v));

/** The grips of a text or a shape: millimetres from its place, to the right and up as it is turned. `px` is one pixel in millimetres. */
function gripsOf(c: Placed, px: number, unit: "mm" | "in"): GripOf[] {
  const length = (mm: number) => withUnit(mm, unit);
  const turn = (above: number): GripOf => ({
    name: "Turn",
    isRound: true,
    at: [0, above + BEYOND * px],
    value: c.degrees,
    words: `${fixed(c.degrees, 0)}°`,
    moved: (to, isEven) => ({ ...c, degrees: turnedTo(c.degrees, to, isEven ? 15 : 1) }),
    stepped: (steps) => ({ ...c, degrees: turnedTo(c.degrees + Math.sign(steps), [0, 1], 1) }),
  });
  if (c.do === "text") {
    const t = c.text;
    const size = (mm: number): Placed => ({ ...c, text: { ...t, size: within(tenth(mm), 0.5, 200) } });
    const bend = (arc: number): Placed => ({ ...c, text: { ...t, arc } });
    const beside = BESIDE * px;
    return [
      {
        name: "Height of capitals",
        isRound: false,
        at: [0, t.size],
        value: t.size,
        words: `${shown(t.size, unit, 1)} ${unit} high`,
        moved: ([, up]) => size(up),
        stepped: (steps) => size(t.size + steps * 0.5),
      },
      {
        name: "Bend",
        isRound: true,
        at: bow(t.arc, beside),
        value: t.arc,
        words: t.arc === 0 ? "straight" : `arc of ${length(t.arc)}`,
        moved: (to) => bend(bentBy(to, px)),
        stepped: (steps) => bend(bentBy([beside, bow(t.arc, beside)[1] + steps * px], px)),
      },
      turn(t.size),
    ];
  }
  const s = c.shape;
  const sized = (side: "width" | "height", mm: number): Placed =>
    ({ ...c, shape: { ...s, [side]: within(tenth(mm), 0.1, 400) } }) as Placed;
  const width: GripOf = {
    name: "Width",
    isRound: false,
    at: [s.width / 2, 0],
    value: s.width,
    words: `${length(s.width)} wide`,
    moved: ([right]) => sized("width", 2 * right),
    stepped: (steps) => sized("width", s.width + steps * 0.5),
  };
  const tall = "height" in s ? s.height : s.width;
  const height: GripOf = {
    name: "Height",
    isRound: false,
    at: [0, tall / 2],
    value: tall,
    words: `${length(tall)} high`,
    moved: ([, up]) => sized("height", 2 * up),
    stepped: (steps) => sized("height", tall + steps * 0.5),
  };
  return [width, ...("height" in s ? [height] : []), turn(tall / 2)];
}

/** What a text or a shape is sized, bent and turned by, on the drawing itself. */
export function EntryGrips({ bench, frame, entry }: { bench: Bench; frame: CanvasView; entry: Entry }) {
  const mm = bench.result.outline?.mm_per_px;
  const { change } = entry;
  const [live, setLive] = useState<Placed | null>(null);
  const held = useRef<string | null>(null);
  if (!mm || (change.do !== "text" && change.do !== "shape")) return null;
  const now = live ?? change;
  const edit = (to: Placed) => [{ kind: "set-change" as const, id: entry.id, change: to }];
  const middle = frame.toScreen(now.at);
  const local = (e: React.PointerEvent): Local => {
    const box = (e.currentTarget as SVGElement).ownerSVGElement?.getBoundingClientRect();
    const at: Px = [e.clientX - (box?.left ?? 0), e.clientY - (box?.top ?? 0)];
    return localOf([(at[0] - middle[0]) / frame.x, (at[1] - middle[1]) / frame.y], now.degrees, mm);
  };
  const end = () => {
    held.current = null;
    setLive(null);
  };
  return gripsOf(now, mm / Math.abs(frame.y), bench.design.document.unit).map((g) => {
    const off = atLocal(g.at, now.degrees, mm);
    const [x, y] = [middle[0] + off[0] * frame.x, middle[1] + off[1] * frame.y];
    const isHeld = live !== null && held.current === g.name;
    return (
      <g
        key={g.name}
        role="slider"
        tabIndex={0}
        aria-label={`${g.name} of the ${now.do}`}
        aria-valuenow={g.value}
        aria-valuetext={g.words}
        data-handle
        data-grip={g.name.toLowerCase()}
        className="cursor-move touch-none outline-none [&:focus-visible_.grip]:stroke-[3px]"
        stroke="var(--terracotta)"
        onPointerDown={(e) => {
          e.currentTarget.setPointerCapture(e.pointerId);
          held.current = g.name;
        }}
        onPointerMove={(e) => {
          if (held.current !== g.name) return;
          const to = g.moved(local(e), e.shiftKey);
          setLive(to);
          bench.preview(edit(to));
        }}
        onPointerUp={() => {
          if (live) bench.change(edit(live));
          end();
        }}
        onPointerCancel={() => {
          bench.settle();
          end();
        }}
        onKeyDown={(e) => {
          const steps = stepsOf(e);
          if (steps === 0) return;
          e.preventDefault();
          e.stopPropagation();
          bench.change(edit(g.stepped(steps)));
        }}
      >
        <title>{`${g.name}: ${g.words}`}</title>
        <path
          d={`M${middle[0]} ${middle[1]}L${x} ${y}`}
          strokeDasharray="2 3"
          opacity={0.6}
          pointerEvents="none"
        />
        {g.isRound ? (
          <circle className="grip" cx={x} cy={y} r={HALF + 1} fill="var(--tile)" strokeWidth={1.8} />
        ) : (
          <rect
            className="grip"
            x={x - HALF}
            y={y - HALF}
            width={2 * HALF}
            height={2 * HALF}
            fill="var(--tile)"
            strokeWidth={1.8}
          />
        )}
        {isHeld && (
          <text
            x={x + HALF + 8}
            y={y + 4}
            fontSize={12}
            fontWeight={700}
            fill="var(--terracotta)"
            stroke="var(--tile)"
            strokeWidth={4}
            paintOrder="stroke"
          >
            {g.words}
          </text>
        )}
      </g>
    );
  });
}
