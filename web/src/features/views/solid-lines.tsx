import { useThree } from "@react-three/fiber";
import { useEffect, useMemo } from "react";
import { BufferAttribute, BufferGeometry, Color } from "three";
import { colours } from "./page-colours";
import { flat } from "./ribbons";
import type { LaidGroup, Ribbon, Under } from "./solid-props";

/** So far above the cut, mm: else the two would flicker. */
const OVER = 0.02;

/** The lines of a layer, lying on what is printed so far. */
export function SolidLines({ under }: { under: Under }) {
  const invalidate = useThree((s) => s.invalidate);
  // biome-ignore lint/correctness/useExhaustiveDependencies: the height is the trigger
  useEffect(() => invalidate(), [invalidate, under.height]);
  return (
    <group position={[0, 0, under.height + OVER]}>
      {under.groups.map((g, k) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: groups have no names, and come anew with each layer
        <Laid key={k} {...g} />
      ))}
    </group>
  );
}

function Laid({ lines, poses }: LaidGroup) {
  const invalidate = useThree((s) => s.invalidate);
  const geometry = useMemo(() => geometryOf(lines), [lines]);
  useEffect(() => {
    invalidate();
    return () => geometry.dispose();
  }, [geometry, invalidate]);
  return poses.map((at) => (
    <mesh
      key={`${at.x} ${at.y} ${at.degrees}`}
      geometry={geometry}
      position={[at.x, at.y, 0]}
      rotation={[0, 0, (at.degrees * Math.PI) / 180]}
    >
      <meshBasicMaterial vertexColors />
    </mesh>
  ));
}

function geometryOf(lines: readonly Ribbon[]): BufferGeometry {
  const { corners, counts } = flat(lines);
  const tints = new Float32Array((corners.length / 2) * 3);
  const colour = colours();
  let at = 0;
  counts.forEach((count, k) => {
    const c = new Color(colour(lines[k]?.colour ?? "#000"));
    for (let v = 0; v < count; v++, at += 3) tints.set([c.r, c.g, c.b], at);
  });
  const places = new Float32Array((corners.length / 2) * 3);
  for (let v = 0; v < corners.length / 2; v++)
    places.set([corners[v * 2] ?? 0, corners[v * 2 + 1] ?? 0, 0], v * 3);
  const g = new BufferGeometry();
  g.setAttribute("position", new BufferAttribute(places, 3));
  g.setAttribute("color", new BufferAttribute(tints, 3));
  return g;
}
