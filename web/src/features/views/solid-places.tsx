import { Line } from "@react-three/drei";
import { useThree } from "@react-three/fiber";
import { useEffect, useEffectEvent, useMemo } from "react";
import { Vector3 } from "three";
import type { PlaceView } from "../../api/generated/PlaceView";
import { eyeFor, outlinesOf } from "./marked";
import type { Marked } from "./solid-props";

/** Places of a finding on the solid: their outlines, seen through what lies in front. The camera turns to the one looked at. */
export function SolidPlaces(p: { marked: Marked; size: [number, number, number]; colour: string }) {
  const { marked, size } = p;
  const camera = useThree((s) => s.camera);
  const controls = useThree((s) => s.controls) as { target: Vector3; update: () => void } | null;
  const invalidate = useThree((s) => s.invalidate);
  const [, , high] = size;
  const outlines = useMemo(() => outlinesOf(marked.places, high), [marked.places, high]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: what is drawn is the trigger
  useEffect(() => invalidate(), [invalidate, outlines]);
  const turn = useEffectEvent((place: PlaceView) => {
    if (!controls) return;
    const distance = camera.position.distanceTo(controls.target);
    const eye = eyeFor(place, size);
    if (!eye) return;
    camera.position.copy(controls.target).addScaledVector(new Vector3(...eye), distance);
    controls.update();
    invalidate();
  });
  const at = marked.look === null ? undefined : marked.places[marked.look];
  useEffect(() => {
    if (at) turn(at);
  }, [at]);
  return outlines.map((line, i) => (
    <Line
      // biome-ignore lint/suspicious/noArrayIndexKey: lines have no other name
      key={i}
      points={line}
      color={p.colour}
      lineWidth={2}
      depthTest={false}
      renderOrder={3}
      transparent
    />
  ));
}
