import { useThree } from "@react-three/fiber";
import { useEffect, useMemo } from "react";
import { BufferAttribute, BufferGeometry, Color } from "three";
import { colours } from "./page-colours";
import { flat } from "./ribbons";
import type { Under } from "./solid-props";

/** So far above the cut, mm: else the two would flicker. */
const OVER = 0.02;

/** The lines of a layer, lying on what is printed so far. */
export function SolidLines({ under }: { under: Under }) {
  const invalidate = useThree((s) => s.invalidate);
  const geometry = useMemo(() => {
    const { corners, counts } = flat(under.lines);
    const tints = new Float32Array((corners.length / 2) * 3);
    const colour = colours();
    let at = 0;
    counts.forEach((count, k) => {
      const c = new Color(colour(under.lines[k]?.colour ?? "#000"));
      for (let v = 0; v < count; v++, at += 3) tints.set([c.r, c.g, c.b], at);
    });
    const places = new Float32Array((corners.length / 2) * 3);
    for (let v = 0; v < corners.length / 2; v++)
      places.set([corners[v * 2] ?? 0, corners[v * 2 + 1] ?? 0, 0], v * 3);
    const g = new BufferGeometry();
    g.setAttribute("position", new BufferAttribute(places, 3));
    g.setAttribute("color", new BufferAttribute(tints, 3));
    return g;
  }, [under.lines]);
  useEffect(() => {
    invalidate();
    return () => geometry.dispose();
  }, [geometry, invalidate]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: the height is the trigger
  useEffect(() => invalidate(), [invalidate, under.height]);
  return (
    <mesh geometry={geometry} position={[0, 0, under.height + OVER]}>
      <meshBasicMaterial vertexColors />
    </mesh>
  );
}
