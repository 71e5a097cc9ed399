import clsx from "clsx";
import { memo, type ReactNode } from "react";
import { Link } from "wouter";
import type { Bench } from "../../api/bench";
import { preparedUrl } from "../../api/client";
import type { ResultView } from "../../api/generated/ResultView";
import type { Unit } from "../../api/generated/Unit";
import { STATIONS, type Station } from "../../state/interface";
import { shown } from "../../ui/length";
import { fixed } from "../../ui/numbers";
import { useInFilaments } from "../views/filament-switch";
import { familyOf, fillOf } from "../views/look";
import { planBox } from "../views/plan";
import { TierShapes } from "../views/tier-shapes";

const NAMES: Record<Station, string> = {
  artwork: "Artwork",
  outline: "Outline",
  tiers: "Tiers",
  check: "Check",
  print: "Print",
};

/** The row of five stations; each miniature is its station's own result. */
export const Belt = memo(function Belt({ bench, station }: { bench: Bench; station: Station }) {
  return (
    <nav aria-label="Stations" className="grid grid-cols-5 gap-1.5 narrow:gap-1">
      {STATIONS.map((s) => {
        const isHere = s === station;
        const { note, isBad } = noteOf(s, bench);
        return (
          <Link
            key={s}
            href={`/design/${bench.design.id}/${s}`}
            aria-current={isHere ? "page" : undefined}
            className={clsx(
              "flex h-26 min-w-0 items-center gap-3 rounded-tile border-b-4 p-2.5 pb-1.5 transition-colors",
              "narrow:h-13.5 low:h-8 narrow:flex-col narrow:justify-center narrow:gap-0.5 narrow:p-0.5",
              isHere ? "border-celadon bg-deep text-on-deep" : "border-transparent bg-tile hover:border-line",
            )}
          >
            <span
              className={clsx(
                "flex size-[74px] flex-none items-center justify-center overflow-hidden rounded-tile low:hidden narrow:size-7 narrow:[&_svg]:max-h-full narrow:[&_svg]:max-w-full narrow:[&>span]:p-0.5",
                isHere ? "bg-tile text-ink" : "bg-sunk",
              )}
            >
              <Miniature station={s} bench={bench} />
            </span>
            <span className="min-w-0">
              <span
                className={clsx(
                  "block font-display text-base font-semibold narrow:text-xs",
                  isBad && !isHere && "narrow:text-terracotta",
                )}
              >
                {NAMES[s]}
              </span>
              <span
                className={clsx(
                  "line-clamp-2 text-xs narrow:sr-only",
                  isHere ? "opacity-85" : isBad ? "font-semibold text-terracotta" : "text-soft",
                )}
              >
                {note}
              </span>
            </span>
          </Link>
        );
      })}
    </nav>
  );
});

function noteOf(s: Station, { design, result, isOld }: Bench): { note: string; isBad: boolean } {
  const fails = (...stages: string[]) => result.problem !== null && stages.includes(result.problem.stage);
  const isMaking = isOld && !result.problem;
  const d = design.document;
  switch (s) {
    case "artwork": {
      if (fails("artwork", "trace")) return { note: result.problem?.message ?? "", isBad: true };
      const size = result.picture ? `, ${Math.round(result.picture.part[2])} px` : "";
      return { note: `${d.artwork.file_name}${size}`, isBad: false };
    }
    case "outline": {
      if (fails("outline")) return { note: result.problem?.message ?? "", isBad: true };
      const n = result.patches.length;
      return {
        note: `${n} ${n === 1 ? "patch" : "patches"} · ${result.outline?.nodes ?? 0} nodes`,
        isBad: false,
      };
    }
    case "tiers":
      if (fails("tiers", "solid")) return { note: result.problem?.message ?? "", isBad: true };
      return { note: `${result.recipe} · ${result.tiers.length} tiers`, isBad: false };
    case "check": {
      const told = result.findings.filter((f) => !f.is_accepted);
      const n = told.filter((f) => f.weight !== "note").length;
      const notes = told.length - n;
      if (isMaking) return { note: "being made", isBad: false };
      if (isOld || !result.solid) return { note: "nothing to check yet", isBad: isOld };
      return n === 0
        ? { note: notes === 0 ? "all well" : `all well · ${notes} to know`, isBad: false }
        : { note: `${n} ${n === 1 ? "finding" : "findings"}`, isBad: true };
    }
    case "print":
      if (isMaking) return { note: "being made", isBad: false };
      if (!result.solid || isOld) return { note: "nothing to print yet", isBad: false };
      return { note: `${result.solid.layers} layers · ${fixed(result.solid.mass, 1)} g`, isBad: false };
  }
}

function Miniature({ station, bench }: { station: Station; bench: Bench }) {
  const { design, result } = bench;
  switch (station) {
    case "artwork":
      return (
        <span className="flex size-full items-center justify-center bg-white p-1.5">
          {result.picture && (
            <img src={preparedUrl(design.id, result.picture.key)} alt="" className="max-h-full max-w-full" />
          )}
        </span>
      );
    case "outline":
      return <OutlineMini result={result} />;
    case "tiers":
      return <SectionMini result={result} />;
    case "check":
      return (
        <PlanMini result={result} isQuiet>
          {result.findings.map((f, i) => {
            if (!f.place || f.weight === "note" || f.is_accepted) return null;
            const [x, y, w, h] = f.place;
            const r = Math.max(w, h) / 2 + planBox(result).width * 0.05;
            return (
              <circle
                // biome-ignore lint/suspicious/noArrayIndexKey: findings have no other name
                key={i}
                cx={x + w / 2}
                cy={y + h / 2}
                r={r}
                fill="none"
                stroke="var(--terracotta)"
                strokeWidth="2"
                vectorEffect="non-scaling-stroke"
              />
            );
          })}
        </PlanMini>
      );
    case "print":
      return <BedMini result={result} unit={design.document.unit} />;
  }
}

function OutlineMini({ result }: { result: ResultView }) {
  const p = result.picture;
  if (!p) return null;
  return (
    <svg viewBox={p.part.join(" ")} className="size-[62px]" aria-hidden="true">
      {result.patches.map((patch, i) => (
        <path
          // biome-ignore lint/suspicious/noArrayIndexKey: patches have no other name
          key={i}
          d={patch.path}
          fillRule="evenodd"
          fill={patch.use === "edge" ? "var(--celadon)" : patch.use === "detail" ? "var(--stamp)" : "none"}
          stroke="var(--wall)"
          strokeWidth="1.2"
          vectorEffect="non-scaling-stroke"
        />
      ))}
    </svg>
  );
}

function SectionMini({ result }: { result: ResultView }) {
  const top = Math.max(...result.section.flatMap((c) => c.corners.map((p) => p[1])), 1);
  const half = planBox(result).width / 2;
  const many = useInFilaments(result);
  // A miniature cannot be to scale: heights take the room that there is.
  const y = (z: number) => 52 - (z / top) * 38;
  const way = result.is_mirrored ? -1 : 1;
  const x = (mm: number) => 37 + ((way * mm) / half) * 31;
  return (
    <svg viewBox="0 0 74 74" className="size-full" aria-hidden="true">
      {result.section.map((c, i) => {
        const tier = result.tiers[c.tier];
        const fill = tier ? fillOf(tier, many) : `var(--${familyOf(c.role)})`;
        return (
          <polygon
            // biome-ignore lint/suspicious/noArrayIndexKey: faces have no other name
            key={i}
            points={c.corners.map(([a, z]) => `${x(a)},${y(z)}`).join(" ")}
            fill={c.is_cut ? "var(--sunk)" : fill}
            stroke={c.is_cut ? "none" : fill}
            strokeWidth="1.2"
          />
        );
      })}
      <path d="M3 52.7H71" stroke="currentColor" strokeWidth="1.4" />
    </svg>
  );
}

function PlanMini(p: { result: ResultView; isQuiet?: boolean; children?: ReactNode }) {
  const box = planBox(p.result);
  const side = Math.max(box.width, box.height) * 1.12;
  return (
    <svg viewBox={`${-side / 2} ${-side / 2} ${side} ${side}`} className="size-[68px]" aria-hidden="true">
      <g transform={p.result.is_mirrored ? "scale(-1 1)" : undefined}>
        <TierShapes result={p.result} opacity={p.isQuiet ? 0.55 : 1} />
        {p.children}
      </g>
    </svg>
  );
}

function BedMini({ result, unit }: { result: ResultView; unit: Unit }) {
  const [w, h] = result.bed;
  return (
    <svg
      viewBox={`${-w / 2 - 6} ${-h / 2 - 6} ${w + 12} ${h + 12}`}
      className="size-[66px]"
      aria-hidden="true"
    >
      <rect
        x={-w / 2}
        y={-h / 2}
        width={w}
        height={h}
        rx="8"
        fill="var(--tile)"
        stroke="var(--edge)"
        strokeWidth="1.5"
        vectorEffect="non-scaling-stroke"
      />
      <TierShapes result={result} />
      <title>{`Bed of ${shown(w, unit)} × ${shown(h, unit)} ${unit}`}</title>
    </svg>
  );
}
