import { OrbitControls } from "@react-three/drei";
import { useThree } from "@react-three/fiber";
import { useEffect, useEffectEvent, useRef } from "react";
import { type Camera, Color, MathUtils, Raycaster, Vector2, Vector3 } from "three";
import { saveFile } from "../../ui/save-file";
import { onScreen } from "./page-colours";
import { distanceTo, FROM, farther, framedOf } from "./solid-frame";
import type { SolidProps } from "./solid-props";
import { type Controls, useTwins } from "./solid-twins";

/** Milliseconds without a turn after which the whole mesh is drawn again. */
const REST_MS = 180;

/** The camera's angle of view, degrees upright. */
const FOV = 28;

/** So long the camera takes to a new place, milliseconds. */
const MOVE_MS = 350;

/** Goes from 0 to 1, slowly at both ends, or at once where motion is not wanted; gives what stops it. */
function gently(to: (share: number) => void): () => void {
  if (matchMedia("(prefers-reduced-motion: reduce)").matches) {
    to(1);
    return () => undefined;
  }
  const start = performance.now();
  let frame = 0;
  const next = (now: number) => {
    const t = Math.min(1, (now - start) / MOVE_MS);
    to(t * t * (3 - 2 * t));
    if (t < 1) frame = requestAnimationFrame(next);
  };
  frame = requestAnimationFrame(next);
  return () => cancelAnimationFrame(frame);
}

function stand(
  camera: Camera,
  size: [number, number, number],
  fov: number,
  aspect: number,
  from: [number, number, number],
) {
  const distance = distanceTo(size, from, MathUtils.degToRad(fov / 2), aspect);
  camera.position
    .set(...from)
    .normalize()
    .multiplyScalar(distance)
    .add(new Vector3(0, 0, size[2] / 2));
}

/** The camera of a solid: where it stands, and how it is turned. */
export function SolidView({
  size,
  view,
  hold,
  twins,
  onTurning,
}: Pick<SolidProps, "size" | "view" | "hold" | "twins"> & { onTurning: (is: boolean) => void }) {
  const rest = useRef(0);
  const camera = useThree((s) => s.camera);
  const invalidate = useThree((s) => s.invalidate);
  const gl = useThree((s) => s.gl);
  const scene = useThree((s) => s.scene);
  const extent = useThree((s) => s.size);
  const controls = useRef<Controls | null>(null);
  // A new size of the object leaves the camera where it is, unless it would run out of the view; only a reset or a new panel brings
  // the first view back.
  const seen = useRef(size);
  const isOnWay = useRef(false);
  const standAnew = useEffectEvent(() => {
    stand(camera, size, FOV, extent.width / Math.max(1, extent.height), FROM[view.name]);
    seen.current = size;
    isOnWay.current = false;
    controls.current?.target.set(0, 0, size[2] / 2);
    controls.current?.update();
    invalidate();
  });
  // biome-ignore lint/correctness/useExhaustiveDependencies: the panel's size and the count are triggers
  useEffect(() => standAnew(), [camera, extent.width, extent.height, view.count]);
  const frameAnew = useEffectEvent(() => {
    const target = controls.current?.target;
    if (!target) return undefined;
    const from = camera.position.clone().sub(target);
    const view = {
      from: from.toArray(),
      distance: from.length(),
      at: target.z,
      half: MathUtils.degToRad(FOV / 2),
      aspect: extent.width / Math.max(1, extent.height),
    };
    // Who is on the way to a place where all was seen is taken to be there.
    const was = framedOf(seen.current, view);
    const times = farther({ ...was, isWhole: was.isWhole || isOnWay.current }, framedOf(size, view));
    seen.current = size;
    isOnWay.current = times !== 1;
    if (times === 1) return undefined;
    return gently((share) => {
      if (!isOnWay.current) return;
      camera.position.copy(target).addScaledVector(from, MathUtils.lerp(1, times, share));
      if (share === 1) isOnWay.current = false;
      controls.current?.update();
      invalidate();
    });
  });
  const [wide, deep, tall] = size;
  // biome-ignore lint/correctness/useExhaustiveDependencies: the object's size is the trigger
  useEffect(() => frameAnew(), [wide, deep, tall]);
  useEffect(() => {
    hold.current = {
      save: (name, isTransparent) => {
        const bed = scene.getObjectByName("bed");
        if (bed) bed.visible = !isTransparent;
        scene.background = isTransparent ? null : new Color(onScreen("var(--tile)"));
        gl.render(scene, camera);
        gl.domElement.toBlob((png) => {
          if (png) saveFile(png, `${name}.png`);
        });
        scene.background = null;
        if (bed) bed.visible = true;
        invalidate();
      },
      turn: (right, up) => {
        const c = controls.current;
        if (!c) return;
        c.setAzimuthalAngle(c.getAzimuthalAngle() - MathUtils.degToRad(right));
        c.setPolarAngle(MathUtils.clamp(c.getPolarAngle() + MathUtils.degToRad(up), 0.01, Math.PI - 0.01));
        invalidate();
      },
      pick: (x, y) => {
        const box = gl.domElement.getBoundingClientRect();
        const at = new Vector2(((x - box.left) / box.width) * 2 - 1, 1 - ((y - box.top) / box.height) * 2);
        const ray = new Raycaster();
        ray.setFromCamera(at, camera);
        const hit = ray.intersectObject(scene).find((i) => typeof i.object.userData.role === "string");
        return (hit?.object.userData.role as string | undefined) ?? null;
      },
    };
    return () => {
      hold.current = null;
    };
  }, [camera, gl, hold, invalidate, scene]);
  const tell = useTwins(twins, controls);
  return (
    <OrbitControls
      ref={(c) => {
        controls.current = c as unknown as Controls | null;
      }}
      makeDefault
      onChange={tell}
      onStart={() => {
        isOnWay.current = false;
        clearTimeout(rest.current);
        onTurning(true);
      }}
      onEnd={() => {
        clearTimeout(rest.current);
        rest.current = window.setTimeout(() => onTurning(false), REST_MS);
      }}
      enableDamping={false}
      maxPolarAngle={Math.PI}
    />
  );
}
