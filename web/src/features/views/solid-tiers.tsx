import { useThree } from "@react-three/fiber";
import { useEffect, useMemo, useState } from "react";
import { DoubleSide, FrontSide, Plane, Vector3 } from "three";
import type { TierMesh } from "../../api/mesh";
import { useInterface } from "../../state/interface";
import { familyOf } from "./look";
import { coarsened } from "./mesh";
import { Creases } from "./solid-creases";
import { facesOf, linesOf, useGeometries } from "./solid-geometries";
import type { SolidProps } from "./solid-props";

export const COLOURS = {
  light: {
    flange: "#a9cbb0",
    wall: "#2f7d84",
    stamp: "#d9974f",
    room: "#a9cbb0",
    bed: "#e9e1d2",
    line: "#14343a",
    measure: "#5b7074",
    mark: "#b3471f",
  },
  dark: {
    flange: "#5d8f72",
    wall: "#4fa9a8",
    stamp: "#d9974f",
    room: "#5d8f72",
    bed: "#0c1d21",
    line: "#071417",
    measure: "#9fb4b4",
    mark: "#f08a5d",
  },
} as const;

/** In the server's order. */
const ROLES = [
  "flange",
  "wall",
  "stamp",
  "body",
  "detail",
  "rim",
  "bar",
  "loop",
  "grip",
  "room",
  "own",
] as const;

/** From this many triangles on a coarser mesh stands in while it turns. */
const LARGE = 60_000;

/** Cells of the coarser mesh along the longest side. */
const COARSE_CELLS = 140;

const NONE: readonly TierMesh[] = [];

const trianglesOf = (tiers: readonly TierMesh[]) => tiers.reduce((n, t) => n + t.corners.length / 3, 0);

export function Tiers(p: SolidProps & { tiers: TierMesh[]; isTurning: boolean }) {
  const { tiers: whole, isLifted, isDark } = p;
  const invalidate = useThree((s) => s.invalidate);
  const isLarge = trianglesOf(whole) >= LARGE;
  const cell = Math.max(...p.size) / COARSE_CELLS;
  // Made when the mesh is first turned: most never are.
  const [turnedOne, setTurnedOne] = useState<TierMesh[] | null>(null);
  if (p.isTurning && isLarge && turnedOne !== whole) setTurnedOne(whole);
  const coarse = useMemo(
    () => (turnedOne === whole ? whole.map((t) => coarsened(t, cell)) : []),
    [cell, turnedOne, whole],
  );
  const fineOnes = useGeometries(whole, facesOf);
  const coarseOnes = useGeometries(coarse, facesOf);
  // Lines of each mesh that a hand drags past would cost as much to draw as the mesh.
  const isHeld = useInterface((s) => s.held !== null && s.isSlow);
  const isLined = !isHeld && (p.under?.height ?? null) === null;
  const lines = useGeometries(isLined ? whole : NONE, linesOf);
  const [tiers, geometries] = p.isTurning && isLarge ? [coarse, coarseOnes] : [whole, fineOnes];
  const colours = COLOURS[isDark ? "dark" : "light"];
  // A solid that is not cut open is not drawn anew for each place of the line.
  const section = useInterface((s) => (p.isCut ? s.section : 0));
  const turned = useInterface((s) => (p.isCut ? s.turned : 0));
  // What lies in front of A–A is taken away. The solid is the tool: its mirror image turns the other way.
  const height = p.under?.height ?? null;
  const planes = useMemo(() => {
    const above = height === null ? [] : [new Plane(new Vector3(0, 0, -1), height)];
    if (!p.isCut) return above;
    const a = ((p.isMirrored ? -turned : turned) * Math.PI) / 180;
    const normal = new Vector3(-Math.sin(a), Math.cos(a), 0);
    return [...above, new Plane(normal, -section * Math.cos(a))];
  }, [p.isCut, p.isMirrored, section, turned, height]);
  const byPart = useMemo(() => {
    const filaments = [...new Set((p.colours ?? []).filter((t) => !t.is_cut).map((t) => t.filament))];
    return filaments.map((f) => p.colours?.find((t) => t.filament === f && !t.is_cut)?.colour ?? [0, 0, 0]);
  }, [p.colours]);
  const painted = byPart.join(" ");
  // biome-ignore lint/correctness/useExhaustiveDependencies: how it is shown is the trigger
  useEffect(() => invalidate(), [invalidate, p.isClear, painted, p.isTurning, planes, isLifted, isDark]);
  return (
    <>
      {geometries.map((g, i) => {
        const family = familyOf(ROLES[tiers[i]?.role ?? 1] ?? "wall");
        const filament = byPart[tiers[i]?.part ?? 0];
        return (
          // By its place: with a name of its own each new mesh would link its shaders anew.
          <mesh
            // biome-ignore lint/suspicious/noArrayIndexKey: a tier of the next mesh takes the place of this one's
            key={i}
            geometry={g}
            position={[0, 0, isLifted ? i * 14 : 0]}
            userData={{ role: ROLES[tiers[i]?.role ?? 1] }}
            castShadow
            receiveShadow
          >
            <meshStandardMaterial
              color={filament ? `rgb(${filament.join(",")})` : colours[family]}
              transparent={p.isClear}
              opacity={p.isClear ? 0.38 : 1}
              depthWrite={!p.isClear}
              clippingPlanes={planes}
              side={p.isCut || height !== null ? DoubleSide : FrontSide}
              flatShading
              roughness={0.62}
              polygonOffset
              polygonOffsetFactor={1}
              polygonOffsetUnits={1}
            />
            <Creases geometry={lines[i]} colour={colours.line} planes={planes} />
          </mesh>
        );
      })}
    </>
  );
}
