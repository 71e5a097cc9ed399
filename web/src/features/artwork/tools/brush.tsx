import { useRef, useState } from "react";
import type { Bench } from "../../../api/bench";
import type { StrokeKind } from "../../../api/generated/StrokeKind";
import { Button } from "../../../ui/button";
import { Track } from "../../../ui/track";
import type { BoardEvents, BoardView } from "../board";
import { apply, css, type Px, scaleAt, thinned } from "../frame";
import { Tray } from "./tray";

const KINDS: [StrokeKind, string][] = [
  ["rub-out", "Rub out"],
  ["draw", "Draw"],
  ["fill", "Fill area"],
  ["clear", "Clear area"],
];

/** Tidies by brush: strokes are kept in pixels of the original, whatever is turned or cropped later. */
export function useBrush(bench: Bench, onDone: () => void) {
  const [kind, setKind] = useState<StrokeKind>("rub-out");
  const [width, setWidth] = useState(20);
  const [colour, setColour] = useState(0);
  const [points, setPoints] = useState<Px[]>([]);
  const drawing = useRef<Px[] | null>(null);
  const isBrush = kind === "rub-out" || kind === "draw";
  const palette = (bench.result.trace?.palette ?? []).filter((s) => !s.is_ground);
  const ink = palette[Math.min(colour, palette.length - 1)]?.colour ?? null;
  const strokes = bench.design.document.prepare.strokes.length;
  const events: BoardEvents = {
    onDown: (p) => {
      drawing.current = [p];
      setPoints([p]);
    },
    onMove: (p) => {
      if (!drawing.current || !isBrush) return;
      drawing.current.push(p);
      setPoints([...drawing.current]);
    },
    onUp: () => {
      const drawn = drawing.current;
      const picture = bench.result.picture;
      drawing.current = null;
      if (!drawn?.[0] || !picture) return;
      const line = isBrush ? thinned(drawn, 0.4) : drawn.slice(0, 1);
      const stroke = {
        kind,
        points: line.map((q) => apply(picture.to_original, q)),
        radius: (width / 2) * scaleAt(picture.to_original, drawn[0]),
        colour: kind === "draw" || kind === "fill" ? ink : null,
      };
      void bench
        .commit([{ kind: "add-stroke", stroke }])
        .catch(() => undefined)
        .finally(() => setPoints([]));
    },
    onCancel: () => {
      drawing.current = null;
      setPoints([]);
    },
  };
  const overlay = (view: BoardView) => {
    const r = isBrush ? (width / 2) * view.scale : 5;
    const at = view.pointer && view.toScreen(view.pointer);
    const d = points.map((q, i) => `${i === 0 ? "M" : "L"}${view.toScreen(q).join(" ")}`).join("");
    const paint = kind === "rub-out" || kind === "clear" ? "#ffffff" : ink ? css(ink) : "#14343a";
    return (
      <svg className="pointer-events-none absolute inset-0 size-full" aria-hidden="true">
        {points.length > 0 && isBrush && (
          <path
            d={points.length === 1 ? `${d}h0.01` : d}
            fill="none"
            stroke={paint}
            strokeOpacity={0.8}
            strokeWidth={2 * r}
            strokeLinecap="round"
            strokeLinejoin="round"
          />
        )}
        {at && (
          <>
            <circle cx={at[0]} cy={at[1]} r={Math.max(2, r)} fill="none" stroke="#fff" strokeWidth={3} />
            <circle cx={at[0]} cy={at[1]} r={Math.max(2, r)} fill="none" stroke="#b4512b" strokeWidth={1.5} />
          </>
        )}
      </svg>
    );
  };
  const tray = (
    <Tray words={isBrush ? "Paint over the picture." : "Click into an area of one shade."} onDone={onDone}>
      {KINDS.map(([k, words]) => (
        <Button
          key={k}
          aria-pressed={kind === k}
          className={`text-xs ${kind === k ? "border-glaze bg-tile text-glaze" : ""}`}
          onClick={() => setKind(k)}
        >
          {words}
        </Button>
      ))}
      {isBrush && (
        <span className="flex w-40 items-center gap-2 text-xs">
          width
          <Track label="Brush width" value={width} min={1} max={120} onMove={setWidth} onSettle={setWidth} />
          <output className="w-10 flex-none">{width} px</output>
        </span>
      )}
      {!(kind === "rub-out" || kind === "clear") &&
        palette.length > 0 &&
        palette.map((s, k) => (
          <button
            key={css(s.colour)}
            type="button"
            aria-label={`Draw with colour ${k + 1}`}
            aria-pressed={colour === k}
            onClick={() => setColour(k)}
            className="size-6 rounded-[3px] border border-line aria-pressed:outline-2 aria-pressed:outline-glaze"
            style={{ background: css(s.colour) }}
          />
        ))}
      <Button
        className="text-xs"
        why={strokes === 0 && "Nothing is brushed"}
        onClick={() => bench.change([{ kind: "clear-strokes" }])}
      >
        Take all off{strokes > 0 ? ` (${strokes})` : ""}
      </Button>
    </Tray>
  );
  return { events, overlay, tray };
}
