import { OrbitControls } from "@react-three/drei";
import { useThree } from "@react-three/fiber";
import { useEffect, useEffectEvent, useRef } from "react";
import { type Camera, Color, MathUtils, Vector3 } from "three";
import { saveFile } from "../../ui/save-file";
import { distanceTo, FROM, farther, radiusOf } from "./solid-frame";
import type { SolidProps } from "./solid-props";
import { type Controls, useTwins } from "./solid-twins";

/** Milliseconds without a turn after which the whole mesh is drawn again. */
const REST_MS = 180;

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
  // A new size of the object keeps the maker's direction, and the distance too unless it is quite another size; only a
  // reset or a new panel brings the first view back.
  const framed = useRef(0);
  const standAnew = useEffectEvent(() => {
    stand(camera, size, 28, extent.width / Math.max(1, extent.height), FROM[view.name]);
    framed.current = radiusOf(size);
    controls.current?.target.set(0, 0, size[2] / 2);
    controls.current?.update();
    invalidate();
  });
  // biome-ignore lint/correctness/useExhaustiveDependencies: the panel's size and the count are triggers
  useEffect(() => standAnew(), [camera, extent.width, extent.height, view.count]);
  const radius = radiusOf(size);
  useEffect(() => {
    const times = farther(framed.current, radius);
    const target = controls.current?.target;
    if (times === 1 || !target) return;
    camera.position.sub(target).multiplyScalar(times).add(target);
    framed.current = radius;
    controls.current?.update();
    invalidate();
  }, [camera, invalidate, radius]);
  useEffect(() => {
    hold.current = {
      save: (name, isTransparent) => {
        const bed = scene.getObjectByName("bed");
        if (bed) bed.visible = !isTransparent;
        const ground = isTransparent ? null : getComputedStyle(document.body).getPropertyValue("--tile");
        scene.background = ground ? new Color(ground.trim()) : null;
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
