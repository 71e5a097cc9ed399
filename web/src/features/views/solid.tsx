import { OrbitControls } from "@react-three/drei";
import { Canvas, useThree } from "@react-three/fiber";
import { useQuery } from "@tanstack/react-query";
import { useEffect, useEffectEvent, useMemo, useRef, useState } from "react";
import { type Camera, Color, MathUtils, setConsoleFunction, Vector3 } from "three";
import { api } from "../../api/client";
import { saveFile } from "../../ui/save-file";
import { Light } from "./light";
import { boxOf, readMesh } from "./mesh";
import { distanceTo, FROM, farther, radiusOf } from "./solid-frame";
import { SolidLines } from "./solid-lines";
import { MeasureFigures, SolidMeasures } from "./solid-measures";
import { SolidPlaces } from "./solid-places";
import type { SolidProps } from "./solid-props";
import { COLOURS, Tiers } from "./solid-tiers";
import { type Controls, useTwins } from "./solid-twins";
import { sceneOf } from "./use-scene";
import { UseGroup } from "./use-things";

// The library that draws for React still makes clocks of a kind that three has put aside; nobody here can do anything about it.
setConsoleFunction((kind, message, ...more) => {
  if (!message.includes("Clock")) console[kind](message, ...more);
});

/** Milliseconds without a turn after which the whole mesh is drawn again. */
const REST_MS = 180;

/** The object in three dimensions. Draws only when something changes. */
export default function Solid(p: SolidProps) {
  // The last mesh stays while the next one is on its way.
  const { data } = useQuery({
    queryKey: ["mesh", p.meshKey],
    queryFn: async () => readMesh(await api.mesh(p.meshKey)),
    placeholderData: (old) => old,
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 60_000,
    retry: 1,
  });
  const antialias = !navigator.webdriver;
  const [isTurning, setTurning] = useState(false);
  const isMeasured = p.measures !== null;
  const box = useMemo(() => (data && isMeasured ? boxOf(data) : null), [data, isMeasured]);
  const figures = useRef<HTMLDivElement>(null);
  const day = p.isDark ? "dark" : "light";
  const scene = useMemo(() => p.use && sceneOf(p.use, p.size), [p.use, p.size]);
  const size = scene?.size ?? p.size;
  const isUpright = scene !== null && scene.turn !== null;
  const tiers = data && <Tiers tiers={data} isTurning={isTurning} {...p} />;
  return (
    <>
      <Canvas
        frameloop="demand"
        flat
        dpr={antialias ? [1, 2] : 1}
        gl={{ antialias, preserveDrawingBuffer: true, alpha: true, localClippingEnabled: true }}
        camera={{ fov: 28, near: 1, far: 4000, up: [0, 0, 1], position: [0, -300, 200] }}
        data-mesh={data ? p.meshKey : ""}
        data-turning={isTurning || undefined}
        shadows="percentage"
        data-use={p.use?.title}
        data-marked={p.marked?.places.length || undefined}
      >
        <Light isDark={p.isDark} degrees={p.use?.light ?? null} reach={radiusOf(size)} />
        <View size={size} view={p.view} hold={p.hold} twins={p.twins} onTurning={setTurning} />
        {data && scene && p.use ? (
          <UseGroup meshKey={p.meshKey} use={p.use} scene={scene} isDark={p.isDark}>
            {tiers}
          </UseGroup>
        ) : (
          tiers
        )}
        {p.measures && box && !scene && (
          <SolidMeasures low={box.low} high={box.high} figures={figures} colour={COLOURS[day].measure} />
        )}
        {p.under && <SolidLines under={p.under} />}
        {p.marked && !scene && <SolidPlaces marked={p.marked} size={p.size} colour={COLOURS[day].mark} />}
        {!isUpright && (
          <mesh position={[0, 0, -0.05]} name="bed" receiveShadow>
            <circleGeometry args={[Math.hypot(size[0], size[1]) * 0.5, 96]} />
            {p.use?.light ? (
              <meshStandardMaterial color={COLOURS[day].bed} roughness={0.9} />
            ) : (
              <meshBasicMaterial color={COLOURS[day].bed} />
            )}
          </mesh>
        )}
      </Canvas>
      {p.measures && box && !scene && (
        <MeasureFigures low={box.low} high={box.high} unit={p.measures} hold={figures} />
      )}
    </>
  );
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

function View({
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
