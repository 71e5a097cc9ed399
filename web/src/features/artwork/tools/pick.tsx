import { useRef } from "react";
import type { Bench } from "../../../api/bench";
import { preparedUrl } from "../../../api/client";
import { useNotices } from "../../../state/notices";
import type { BoardEvents, BoardView } from "../board";
import type { Px } from "../frame";
import { picking } from "../ink";
import { Tray } from "./tray";

/** The colour of the prepared picture at a place, the median of nine pixels. */
async function colourAt(
  url: string,
  part: readonly number[],
  at: Px,
): Promise<[number, number, number] | null> {
  const image = new Image();
  image.src = url;
  await image.decode();
  const canvas = document.createElement("canvas");
  [canvas.width, canvas.height] = [3, 3];
  const context = canvas.getContext("2d");
  const [x, y, w, h] = part as [number, number, number, number];
  if (!context || at[0] < x || at[1] < y || at[0] >= x + w || at[1] >= y + h) return null;
  const k = image.naturalWidth / w;
  context.imageSmoothingEnabled = false;
  context.fillStyle = "#fff";
  context.fillRect(0, 0, 3, 3);
  context.drawImage(
    image,
    Math.floor((at[0] - x) * k) - 1,
    Math.floor((at[1] - y) * k) - 1,
    3,
    3,
    0,
    0,
    3,
    3,
  );
  const data = context.getImageData(0, 0, 3, 3).data;
  const median = (c: number) =>
    [...Array(9).keys()].map((i) => data[i * 4 + c] ?? 0).sort((p, q) => p - q)[4] ?? 0;
  return [median(0), median(1), median(2)];
}

/** Points at a colour of the picture, which is then among those that are told apart. */
export function usePick(bench: Bench, onDone: () => void) {
  const say = useNotices((s) => s.say);
  const isBusy = useRef(false);
  const events: BoardEvents = {
    onUp: (p) => {
      const picture = bench.result.picture;
      if (!picture || isBusy.current) return;
      isBusy.current = true;
      colourAt(preparedUrl(bench.design.id, picture.key), picture.part, p)
        .then((colour) => {
          const edits = colour ? picking(bench.design.document.trace.colours, colour) : [];
          if (edits.length > 0) bench.change(edits);
          onDone();
        })
        .catch(() =>
          say({ text: "The colour could not be read", hint: "Try again.", isBad: true, action: null }),
        )
        .finally(() => {
          isBusy.current = false;
        });
    },
  };
  const overlay = (view: BoardView) => {
    const at = view.pointer && view.toScreen(view.pointer);
    return (
      at && (
        <svg className="pointer-events-none absolute inset-0 size-full" aria-hidden="true">
          <circle cx={at[0]} cy={at[1]} r={7} fill="none" stroke="#fff" strokeWidth={4} />
          <circle cx={at[0]} cy={at[1]} r={7} fill="none" stroke="#b4512b" strokeWidth={2} />
        </svg>
      )
    );
  };
  const tray = (
    <Tray words="Click the colour that should count." onDone={onDone}>
      {null}
    </Tray>
  );
  return { events, overlay, tray };
}
