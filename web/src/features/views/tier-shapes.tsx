import { useId } from "react";
import type { ResultView } from "../../api/generated/ResultView";
import { useInFilaments } from "./filament-switch";
import { fillOf, isSeen } from "./look";

/** What is cut from less than this above the bed goes right through. */
const FLOOR_MM = 0.01;

/** The tiers from above, the later over the earlier; what is cut from below as hidden edges. */
export function TierShapes(p: { result: ResultView; opacity?: number; isNamed?: boolean }) {
  const { result, opacity = 1 } = p;
  const many = useInFilaments(result);
  const engraved = useId();
  return (
    <>
      <defs>
        {/* What is cut in but has a floor: its ground shows through, darker and hatched; an opening shows the sheet. */}
        <pattern
          id={engraved}
          width="1.4"
          height="1.4"
          patternUnits="userSpaceOnUse"
          patternTransform="rotate(45)"
        >
          <rect width="1.4" height="1.4" fill="var(--ink)" fillOpacity={0.16} />
          <path d="M0 0v1.400" stroke="var(--ink)" strokeOpacity={0.5} strokeWidth="0.300" />
        </pattern>
      </defs>
      {result.tiers.map((t, i) => {
        const seen = isSeen(t, result);
        const hasFloor = t.is_cut && t.bottom > FLOOR_MM;
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
            fill={seen ? (hasFloor ? `url(#${engraved})` : fillOf(t, many)) : "none"}
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
