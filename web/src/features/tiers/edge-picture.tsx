import type { Finish } from "../../api/generated/Finish";

/** Room round the block, its half width, its height, and how far a finish goes in and along. */
const [LEFT, WIDE, TALL, IN, ALONG] = [10, 44, 30, 8, 14];

type Corner = [number, number];

/**
 * The side of a block from its middle to the edge that is finished: `out` is 1 to the right and -1 to the left; y goes down from the edge.
 */
function side(f: Finish, at: number, out: 1 | -1): Corner[] {
  const grown = f.way === "outward" ? 1 : -1;
  const tip: Corner = [at + out * IN * grown, 0];
  if (f.shape === "square") return [[at, 0]];
  const along = f.shape === "chamfer" ? IN : ALONG;
  if (f.shape !== "round") return [tip, [at, along]];
  const steps = [0, 15, 30, 45, 60, 75, 90].map((degrees): Corner => {
    const a = (degrees * Math.PI) / 180;
    // A quarter of an ellipse: level at the edge, upright where it leaves the side.
    return [at + out * grown * IN * (1 - Math.sin(a)), ALONG * (1 - Math.cos(a))];
  });
  return steps;
}

/** The outline of a block with a hole in its middle, in section, its finished edge above: two legs. */
function legs(f: Finish): Corner[][] {
  const none: Finish = { ...f, shape: "square" };
  const outer = f.edges === "inner" ? none : f;
  const inner = f.edges === "outer" ? none : f;
  const [a, b, c, d] = [LEFT, LEFT + WIDE * 0.36, LEFT + WIDE * 0.64, LEFT + WIDE];
  const leg = (l: number, r: number, atLeft: Finish, atRight: Finish): Corner[] => [
    [l, TALL],
    ...side(atLeft, l, -1).toReversed(),
    ...side(atRight, r, 1),
    [r, TALL],
  ];
  return [leg(a, b, outer, inner), leg(c, d, inner, outer)];
}

/** A picture of what a finish does to the edges of a block with a hole, cut through. */
export function EdgePicture({ finish, isLower }: { finish: Finish; isLower: boolean }) {
  return (
    <svg viewBox={`0 0 ${WIDE + 2 * LEFT} ${TALL + 4}`} className="h-9 w-16 flex-none" aria-hidden="true">
      <g transform={isLower ? `translate(0 ${TALL + 4}) scale(1 -1)` : undefined}>
        {legs(finish).map((leg, i) => (
          <path
            // biome-ignore lint/suspicious/noArrayIndexKey: the legs have no other name
            key={i}
            d={`M${leg.map(([x, y]) => `${x.toFixed(1)} ${(y + 2).toFixed(1)}`).join("L")}Z`}
            fill="var(--glaze)"
            fillOpacity="0.25"
            stroke="currentColor"
            strokeWidth="1.3"
            strokeLinejoin="round"
          />
        ))}
      </g>
    </svg>
  );
}
