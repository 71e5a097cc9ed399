import { useThree } from "@react-three/fiber";
import { useQueries } from "@tanstack/react-query";
import { memo, useEffect, useMemo, useRef, useState } from "react";
import { DoubleSide, Plane, Vector3 } from "three";
import type { BedDesignView } from "../../api/generated/BedDesignView";
import type { BedOnShelf } from "../../api/generated/BedOnShelf";
import type { Pose } from "../../api/generated/Pose";
import type { TierMesh } from "../../api/mesh";
import { meshQuery } from "../../api/mesh-query";
import { useInterface } from "../../state/interface";
import { laidOn } from "../print/laid-on";
import type { SeenLayer } from "../print/layer-plan";
import { Light } from "../views/light";
import { coarsened } from "../views/mesh";
import { SolidCanvas } from "../views/solid-canvas";
import { radiusOf } from "../views/solid-frame";
import { facesOf, useGeometries } from "../views/solid-geometries";
import { SolidLines } from "../views/solid-lines";
import type { SolidHold } from "../views/solid-props";
import { COLOURS } from "../views/solid-tiers";
import { SolidView } from "../views/solid-view";

/** All pieces of a bed as far as a layer, with that layer's lines on top. The plan moves on without it. */
export const BedSolid = memo(function BedSolid(p: {
  bed: BedOnShelf;
  layer: SeenLayer;
  byFilament: boolean;
}) {
  const { bed, layer, byFilament } = p;
  const isDark = useInterface((s) => s.isDark);
  const hold = useRef<SolidHold | null>(null);
  const [, setTurning] = useState(false);
  const [w, d] = bed.result.size;
  const highest = Math.max(1, ...bed.result.designs.map((g) => g.size[2]));
  const size = useMemo((): [number, number, number] => [w, d, highest], [w, d, highest]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: by night the page's colours are others
  const under = useMemo(
    () => ({ height: layer.top, groups: laidOn(layer.groups, byFilament) }),
    [layer, byFilament, isDark],
  );
  const colours = COLOURS[isDark ? "dark" : "light"];
  const designs = bed.result.designs.filter((g) => g.solid !== null);
  return (
    <SolidCanvas data-bed-layer={layer.layer}>
      <Light isDark={isDark} degrees={null} reach={radiusOf(size)} />
      <SolidView size={size} view={VIEW} hold={hold} onTurning={setTurning} />
      <group position={[-w / 2, -d / 2, 0]}>
        <Copies bed={bed} designs={designs} layer={layer} />
        <SolidLines under={under} />
      </group>
      <mesh position={[0, 0, -0.05]} name="bed">
        <planeGeometry args={[w, d]} />
        <meshBasicMaterial color={colours.bed} />
      </mesh>
    </SolidCanvas>
  );
});

/** Meshes are drawn as they come; a design's copies share one. */
function Copies(p: { bed: BedOnShelf; designs: readonly BedDesignView[]; layer: SeenLayer }) {
  const meshes = useQueries({ queries: p.designs.map((g) => meshQuery(g.solid?.key ?? "")) });
  return p.designs.map((g, k) => {
    const tiers = meshes[k]?.data;
    const heights = new Map(p.layer.built.map((b) => [b.piece, b.height]));
    const copies = p.bed.document.pieces.flatMap((piece) => {
      const height = heights.get(piece.id);
      return piece.design === g.id && piece.place && height !== undefined
        ? [{ id: piece.id, pose: piece.place.pose, height }]
        : [];
    });
    return tiers && <Copy key={g.id} tiers={tiers} colours={g.solid?.colours ?? []} copies={copies} />;
  });
}

/** A whole bed shows less than this, mm: about a pixel. */
const CELL_MM = 0.4;

interface Stood {
  id: number;
  pose: Pose;
  height: number;
}

function Copy(p: {
  tiers: TierMesh[];
  colours: readonly (readonly [number, number, number])[];
  copies: readonly Stood[];
}) {
  const { tiers } = p;
  const geometries = useGeometries(
    useMemo(() => tiers.map((t) => coarsened(t, CELL_MM)), [tiers]),
    facesOf,
  );
  const invalidate = useThree((s) => s.invalidate);
  // biome-ignore lint/correctness/useExhaustiveDependencies: how far they have come is the trigger
  useEffect(() => invalidate(), [invalidate, p.copies]);
  return p.copies.map((c) => (
    <group key={c.id} position={[c.pose.x, c.pose.y, 0]} rotation={[0, 0, (c.pose.degrees * Math.PI) / 180]}>
      {geometries.map((g, k) => (
        <Below
          key={g.uuid}
          geometry={g}
          height={c.height}
          colour={p.colours[p.tiers[k]?.part ?? 0] ?? GREY}
        />
      ))}
    </group>
  ));
}

function Below(p: {
  geometry: ReturnType<typeof useGeometries>[number];
  height: number;
  colour: readonly [number, number, number];
}) {
  const planes = useMemo(() => [new Plane(new Vector3(0, 0, -1), p.height)], [p.height]);
  return (
    <mesh geometry={p.geometry}>
      <meshStandardMaterial
        color={`rgb(${p.colour.join(",")})`}
        clippingPlanes={planes}
        side={DoubleSide}
        flatShading
        roughness={0.62}
        polygonOffset
        polygonOffsetFactor={1}
        polygonOffsetUnits={1}
      />
    </mesh>
  );
}

const GREY = [128, 128, 128] as const;

const VIEW = { name: "stand", count: 0 } as const;
