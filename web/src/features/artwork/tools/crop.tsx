import { useRef, useState } from "react";
import type { Bench } from "../../../api/bench";
import type { Crop } from "../../../api/generated/Crop";
import { Button } from "../../../ui/button";
import type { BoardEvents, BoardView } from "../board";
import type { Px } from "../frame";
import { Handle } from "./handle";
import { NumberField, Tray } from "./tray";

/** Keeps a part of the picture. */
export function useCrop(bench: Bench, onDone: () => void) {
  const [left, top, width, height] = bench.result.picture?.part ?? [0, 0, 1, 1];
  const whole: Crop = { x: left, y: top, width, height };
  const [crop, setCrop] = useState<Crop>(whole);
  const from = useRef<Px | null>(null);
  const held = (v: number, from: number, side: number) => Math.min(from + side, Math.max(from, v));
  const between = (a: Px, b: Px) => {
    const [x0, x1] = [Math.min(a[0], b[0]), Math.max(a[0], b[0])].map((v) => held(v, left, width)) as Px;
    const [y0, y1] = [Math.min(a[1], b[1]), Math.max(a[1], b[1])].map((v) => held(v, top, height)) as Px;
    setCrop({ x: x0, y: y0, width: Math.max(1, x1 - x0), height: Math.max(1, y1 - y0) });
  };
  const events: BoardEvents = {
    onDown: (p) => {
      from.current = p;
    },
    onMove: (p) => from.current && between(from.current, p),
    onUp: () => {
      from.current = null;
    },
    onCancel: () => {
      from.current = null;
    },
  };
  const corners: Px[] = [
    [crop.x, crop.y],
    [crop.x + crop.width, crop.y],
    [crop.x + crop.width, crop.y + crop.height],
    [crop.x, crop.y + crop.height],
  ];
  const names = ["Top left corner", "Top right corner", "Bottom right corner", "Bottom left corner"];
  const overlay = (view: BoardView) => {
    const [a, c] = [view.toScreen(corners[0] as Px), view.toScreen(corners[2] as Px)];
    return (
      <>
        <svg className="pointer-events-none absolute inset-0 size-full" aria-hidden="true">
          <path
            d={`M-9999-9999H9999V9999H-9999ZM${a[0]} ${a[1]}V${c[1]}H${c[0]}V${a[1]}Z`}
            fill="#14343a"
            fillOpacity={0.45}
          />
          <rect
            x={a[0]}
            y={a[1]}
            width={c[0] - a[0]}
            height={c[1] - a[1]}
            fill="none"
            stroke="#b4512b"
            strokeWidth={2}
          />
        </svg>
        {corners.map((at, k) => (
          <Handle
            key={names[k]}
            view={view}
            at={at}
            label={names[k] ?? ""}
            onMove={(to) => between(corners[(k + 2) % 4] as Px, to)}
          />
        ))}
      </>
    );
  };
  const field = (label: string, key: keyof Crop) => (
    <NumberField
      label={label}
      unit="px"
      min={0}
      max={100000}
      value={crop[key]}
      onChange={(v) => setCrop({ ...crop, [key]: v })}
    />
  );
  const tray = (
    <Tray words="Drag over the part to keep." onDone={onDone}>
      {field("left", "x")}
      {field("top", "y")}
      {field("width", "width")}
      {field("height", "height")}
      <Button
        className="text-xs"
        why={bench.design.document.prepare.crop === null && "Nothing is cropped"}
        onClick={() => {
          bench.change([{ kind: "set-crop", crop: null }]);
          onDone();
        }}
      >
        Whole picture
      </Button>
      <Button
        look="solid"
        className="text-xs"
        onClick={() => {
          bench.change([{ kind: "set-crop", crop }]);
          onDone();
        }}
      >
        Crop
      </Button>
    </Tray>
  );
  return { events, overlay, tray };
}
