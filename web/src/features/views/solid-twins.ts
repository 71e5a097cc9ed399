import { useThree } from "@react-three/fiber";
import { type RefObject, useEffect, useRef } from "react";
import { Vector3 } from "three";
import type { Twins } from "./solid-props";

/** What a view turns by. */
export interface Controls {
  target: Vector3;
  update: () => void;
  getAzimuthalAngle: () => number;
  getPolarAngle: () => number;
  setAzimuthalAngle: (radians: number) => void;
  setPolarAngle: (radians: number) => void;
}

/** Lets views turn together. What is returned tells the others where this one's camera stands now. */
export function useTwins(twins: Twins | undefined, controls: RefObject<Controls | null>): () => void {
  const camera = useThree((s) => s.camera);
  const invalidate = useThree((s) => s.invalidate);
  // Whoever follows does not tell: else two views would push each other for ever.
  const follows = useRef(false);
  useEffect(() => {
    if (!twins) return;
    const hear = (from: { x: number; y: number; z: number }, sender: object) => {
      const own = controls.current;
      if (sender === camera || !own) return;
      // The direction only: each keeps the distance at which it sees its own object whole.
      const far = camera.position.distanceTo(own.target);
      follows.current = true;
      camera.position.copy(new Vector3(from.x, from.y, from.z).setLength(far).add(own.target));
      own.update();
      follows.current = false;
      invalidate();
    };
    twins.add(hear);
    return () => {
      twins.delete(hear);
    };
  }, [camera, controls, invalidate, twins]);
  return () => {
    const target = controls.current?.target;
    if (!twins || !target || follows.current) return;
    const from = new Vector3().subVectors(camera.position, target);
    for (const hear of twins) hear(from, camera);
  };
}
