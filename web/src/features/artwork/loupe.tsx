import type { PictureView } from "../../api/generated/PictureView";
import type { Px } from "./frame";

/** Side of the loupe on the screen, and of what it shows. */
const SIDE = 168;
const SHOWN_PX = 21;

/** A tile that follows the pointer and shows what is under it, eight screen pixels to one of the picture. */
export function Loupe(p: {
  picture: PictureView;
  url: string;
  paths: string[];
  nodes: Px[];
  at: Px;
  /** Position of the pointer on the board. */
  screen: Px;
  board: { width: number; height: number };
}) {
  const [x, y, w, h] = p.picture.part;
  const zoom = Math.max(1, Math.max(w, h) / 1600);
  const half = (SHOWN_PX * zoom) / 2;
  const left = p.screen[0] + SIDE + 36 > p.board.width ? p.screen[0] - SIDE - 18 : p.screen[0] + 18;
  const top = p.screen[1] + SIDE + 36 > p.board.height ? p.screen[1] - SIDE - 18 : p.screen[1] + 18;
  const near = p.nodes.filter(([a, b]) => Math.abs(a - p.at[0]) < half && Math.abs(b - p.at[1]) < half);
  const dot = half / 24;
  return (
    <svg
      aria-hidden="true"
      data-loupe
      viewBox={`${p.at[0] - half} ${p.at[1] - half} ${2 * half} ${2 * half}`}
      className="pointer-events-none absolute z-10 rounded-tile border-2 border-celadon bg-white shadow-lg"
      style={{ left, top, width: SIDE, height: SIDE }}
    >
      <image href={p.url} x={x} y={y} width={w} height={h} style={{ imageRendering: "pixelated" }} />
      {(["#ffffff", "#0f7c80"] as const).map((colour, k) =>
        p.paths.map((d, i) => (
          <path
            // biome-ignore lint/suspicious/noArrayIndexKey: patches have no other name
            key={`${k}${i}`}
            d={d}
            fill="none"
            stroke={colour}
            strokeWidth={k === 0 ? 4 : 2}
            vectorEffect="non-scaling-stroke"
          />
        )),
      )}
      {near.map(([a, b]) => (
        <rect
          key={`${a} ${b}`}
          x={a - dot}
          y={b - dot}
          width={2 * dot}
          height={2 * dot}
          fill="#ffffff"
          stroke="#b4512b"
          strokeWidth={1.6}
          vectorEffect="non-scaling-stroke"
        />
      ))}
      {(["#ffffff", "#b4512b"] as const).map((colour, k) => (
        <path
          key={colour}
          d={`M${p.at[0] - half} ${p.at[1]}h${half * 0.8}M${p.at[0] + half * 0.2} ${p.at[1]}h${half * 0.8}M${p.at[0]} ${p.at[1] - half}v${half * 0.8}M${p.at[0]} ${p.at[1] + half * 0.2}v${half * 0.8}`}
          stroke={colour}
          strokeWidth={1}
          strokeDasharray={k === 0 ? undefined : "6 3"}
          vectorEffect="non-scaling-stroke"
        />
      ))}
    </svg>
  );
}
