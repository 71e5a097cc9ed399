import type { ResultView } from "../../api/generated/ResultView";
import { fillOf, isManyColoured, isSeen } from "./look";

/** The tiers from above, the later over the earlier; what is cut from below as hidden edges. */
export function TierShapes(p: { result: ResultView; opacity?: number; isNamed?: boolean }) {
  const { result, opacity = 1 } = p;
  const many = isManyColoured(result);
  return (
    <>
      {result.tiers.map((t, i) => {
        const seen = isSeen(t, result);
        // Own tiers may lie on others of their own colour: a line tells them apart.
        const [line, width] = t.is_cut
          ? ["var(--soft)", 0.9]
          : t.role === "own"
            ? ["var(--ink)", 0.7]
            : ["none", 0];
        return (
          <path
            // biome-ignore lint/suspicious/noArrayIndexKey: several tiers may share a key
            key={i}
            d={t.path}
            fill={seen ? fillOf(t, many) : "none"}
            stroke={line}
            strokeWidth={width}
            strokeDasharray={seen ? undefined : "5 3"}
            vectorEffect="non-scaling-stroke"
            opacity={opacity}
            data-tier={p.isNamed ? t.key : undefined}
          />
        );
      })}
    </>
  );
}
