import { memo } from "react";
import type { PatchView } from "../../api/generated/PatchView";
import type { Unit } from "../../api/generated/Unit";
import { useInterface } from "../../state/interface";
import { Button } from "../../ui/button";
import { Icon } from "../../ui/icons";
import { withUnit } from "../../ui/length";
import type { Px } from "../artwork/frame";
import { Dimension, ScaleBar, Words } from "../views/drawing";
import type { Extent } from "../views/frame";
import { RULER } from "./guides";

const USE_FILL: Record<string, string> = {
  edge: "var(--wall)",
  detail: "var(--stamp)",
  both: "var(--glaze)",
  opening: "url(#cut-through)",
  aside: "var(--gap)",
};

/** Dots ten millimetres apart, and one apart where there is room. */
export function Millimetres({ at: [x, y], mm, isShown }: { at: Px; mm: number; isShown: boolean }) {
  const step = (mm >= 9 ? 1 : 10) * mm;
  if (!isShown || step < 6) return null;
  return (
    <>
      <defs>
        <pattern id="millimetres" width={step} height={step} patternUnits="userSpaceOnUse" x={x} y={y}>
          <circle cx="0.8" cy="0.8" r="0.8" fill="var(--line)" />
        </pattern>
      </defs>
      <rect width="100%" height="100%" fill="url(#millimetres)" />
    </>
  );
}

export function Crosshair({ at: [x, y], what }: { at: Px; what: string | null }) {
  return (
    <g stroke="var(--terracotta)" strokeWidth={1.2} fill="none" data-caught={what ?? undefined}>
      <path d={`M${x - 9} ${y}h6M${x + 3} ${y}h6M${x} ${y - 9}v6M${x} ${y + 3}v6`} />
      {what && (
        <>
          <circle cx={x} cy={y} r={5} />
          <Words x={x + 10} y={y - 8}>
            {what}
          </Words>
        </>
      )}
    </g>
  );
}

export const Patches = memo(function Patches(p: {
  patches: PatchView[];
  /** The filament colour of a patch, where plans are shown in filaments. */
  paint: ((patch: PatchView) => string | null) | null;
  chosen: readonly number[];
  isFaint: boolean;
  /** Pixels of the screen for one of the picture. */
  scale: number;
}) {
  const pointed = useInterface((s) => s.patch);
  const all = p.patches.map((patch, i) => (
    <Patch
      // biome-ignore lint/suspicious/noArrayIndexKey: patches have no other name
      key={i}
      index={i}
      patch={patch}
      paint={p.paint?.(patch) ?? null}
      isPointed={pointed === i}
      isChosen={p.chosen.includes(i)}
      isFaint={p.isFaint}
    />
  ));
  return (
    <>
      <defs>
        {/* In pixels of the screen, whatever the zoom: the pattern's own transform undoes it. */}
        <pattern
          id="cut-through"
          width="6"
          height="6"
          patternUnits="userSpaceOnUse"
          patternTransform={`scale(${1 / Math.max(1e-6, p.scale)}) rotate(45)`}
        >
          <rect width="6" height="6" fill="var(--tile)" />
          <path d="M0 0v6" stroke="var(--ink)" strokeWidth="2" />
        </pattern>
      </defs>
      {all}
    </>
  );
});

/** One patch; drawn again only when it changes itself. */
const Patch = memo(function Patch(p: {
  index: number;
  patch: PatchView;
  paint: string | null;
  isPointed: boolean;
  isChosen: boolean;
  isFaint: boolean;
}) {
  const { patch, isPointed, isChosen } = p;
  const pointPatch = useInterface((s) => s.pointPatch);
  const isAside = patch.use === "aside";
  const stroke = isChosen
    ? "var(--terracotta)"
    : isPointed
      ? "var(--glaze)"
      : isAside
        ? "var(--edge)"
        : "var(--ink)";
  return (
    <path
      d={patch.path}
      fillRule="evenodd"
      fill={patch.is_ink || !isAside ? (p.paint ?? USE_FILL[patch.use]) : "transparent"}
      fillOpacity={(isAside ? 0.75 : 0.9) * (p.isFaint ? 0.45 : 1)}
      stroke={stroke}
      strokeWidth={isPointed || isChosen ? 3 : 1}
      strokeDasharray={isAside ? "4 3" : undefined}
      vectorEffect="non-scaling-stroke"
      pointerEvents="all"
      data-patch={p.index}
      data-chosen={isChosen || undefined}
      data-pinned={patch.is_pinned || undefined}
      data-use={patch.use}
      className="cursor-pointer"
      onPointerEnter={() => pointPatch(p.index)}
      onPointerLeave={() => pointPatch(null)}
    />
  );
});

/** Zooms about the middle, and fits. */
export function ZoomButtons(p: {
  what: string;
  isFitted: boolean;
  onZoom: (by: number) => void;
  onFit: () => void;
}) {
  return (
    <div className="absolute right-2 top-7 flex gap-1">
      <Button
        className="size-7 px-0"
        aria-label="Zoom in"
        title="Zoom in (+, wheel)"
        onClick={() => p.onZoom(1.5)}
      >
        +
      </Button>
      <Button
        className="size-7 px-0"
        aria-label="Zoom out"
        title="Zoom out (-, wheel)"
        onClick={() => p.onZoom(1 / 1.5)}
      >
        −
      </Button>
      <Button
        className="size-7 px-0"
        aria-label={`Fit the ${p.what}`}
        title="Fit (0)"
        why={p.isFitted && "It is fitted"}
        onClick={p.onFit}
      >
        <Icon name="fit" className="size-4" />
      </Button>
    </div>
  );
}

/** The picture that the patches come from. */
export function Underlay(p: {
  src: string;
  box: { left: number; top: number; width: number; height: number };
  opacity: number;
  isMirrored: boolean;
}) {
  return (
    <img
      src={p.src}
      alt=""
      draggable={false}
      className="pointer-events-none absolute max-w-none origin-top-left select-none"
      style={{ ...p.box, opacity: p.opacity, transform: p.isMirrored ? "scaleX(-1)" : undefined }}
    />
  );
}

/** Wide enough for the legend beside the scale, pixels. */
const LEGEND_BESIDE = 460;

/** How wide the drawing is, and the scale. */
export function TrueSize(p: {
  /** The middle of the drawing on the screen. */
  at: Px;
  outline: { width: number; height: number };
  /** Pixels to a millimetre. */
  scale: number;
  unit: Unit;
  extent: Extent;
}) {
  const { width, height } = p.extent;
  const [x, y] = p.at;
  const [half, below] = [(p.outline.width / 2) * p.scale, y + (p.outline.height / 2) * p.scale];
  const line = Math.min(height - 20, below + 18);
  return (
    <>
      {half > 20 && (
        <Dimension
          from={[x - half, line]}
          to={[x + half, line]}
          at={[
            [x - half, below + 2],
            [x + half, below + 2],
          ]}
          text={withUnit(p.outline.width, p.unit, 1)}
        />
      )}
      <ScaleBar
        x={RULER + 10}
        // Above the legend where there is no room beside it.
        y={height - (width < LEGEND_BESIDE ? 36 : 12)}
        pxPerMm={p.scale}
        unit={p.unit}
      />
    </>
  );
}
