import { Edges, OrbitControls } from "@react-three/drei";
import { Canvas, useThree } from "@react-three/fiber";
import { useQuery } from "@tanstack/react-query";
import { useEffect, useMemo, useRef } from "react";
import { BufferAttribute, BufferGeometry, type Camera, MathUtils, Vector3 } from "three";
import { api } from "../../api/client";
import { readMesh, type TierMesh } from "./mesh";

interface Props {
  /** By this the mesh is fetched. */
  meshKey: string;
  size: [number, number, number];
  isLifted: boolean;
  isDark: boolean;
  /** Rises to bring the first view back. */
  resets: number;
}

const COLOURS = {
  light: { flange: "#a9cbb0", wall: "#2f7d84", stamp: "#d9974f", bed: "#e9e1d2", line: "#14343a" },
  dark: { flange: "#5d8f72", wall: "#4fa9a8", stamp: "#d9974f", bed: "#0c1d21", line: "#071417" },
} as const;
const ROLES = ["flange", "wall", "stamp"] as const;
/** Above this many triangles edges cost more than they show. */
const EDGES_UP_TO = 60_000;

/** The object in three dimensions. Draws only when something changes. */
export default function Solid(p: Props) {
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
  return (
    <Canvas
      frameloop="demand"
      flat
      dpr={antialias ? [1, 2] : 1}
      gl={{ antialias, preserveDrawingBuffer: true }}
      camera={{ fov: 28, near: 1, far: 4000, up: [0, 0, 1], position: [0, -300, 200] }}
      data-mesh={data ? p.meshKey : ""}
    >
      <hemisphereLight args={["#ffffff", p.isDark ? "#48646a" : "#d8d0c0", 1.9]} />
      <directionalLight position={[-120, -200, 320]} intensity={2.1} />
      <View size={p.size} resets={p.resets} />
      {data && <Tiers tiers={data} isLifted={p.isLifted} isDark={p.isDark} />}
      <mesh position={[0, 0, -0.05]}>
        <circleGeometry args={[Math.hypot(p.size[0], p.size[1]) * 0.5, 96]} />
        <meshBasicMaterial color={COLOURS[p.isDark ? "dark" : "light"].bed} />
      </mesh>
    </Canvas>
  );
}

function stand(camera: Camera, size: [number, number, number], fov: number, aspect: number) {
  const radius = Math.hypot(...size) / 2;
  const half = MathUtils.degToRad(fov / 2);
  const distance = (radius / Math.sin(Math.min(half, Math.atan(Math.tan(half) * aspect)))) * 0.9;
  camera.position
    .set(0.28, -0.78, 0.62)
    .normalize()
    .multiplyScalar(distance)
    .add(new Vector3(0, 0, size[2] / 2));
}

function View({ size, resets }: { size: [number, number, number]; resets: number }) {
  const camera = useThree((s) => s.camera);
  const invalidate = useThree((s) => s.invalidate);
  const extent = useThree((s) => s.size);
  const controls = useRef<{ target: Vector3; update: () => void } | null>(null);
  // A new size of the object keeps the maker's view; only a reset or a new panel brings the first one back.
  const first = useRef(size);
  first.current = size;
  // biome-ignore lint/correctness/useExhaustiveDependencies: resets is the trigger
  useEffect(() => {
    stand(camera, first.current, 28, extent.width / Math.max(1, extent.height));
    controls.current?.target.set(0, 0, 0);
    controls.current?.update();
    invalidate();
  }, [camera, extent.width, extent.height, invalidate, resets]);
  return (
    <OrbitControls
      ref={(c) => {
        controls.current = c as unknown as typeof controls.current;
      }}
      makeDefault
      enableDamping={false}
      maxPolarAngle={Math.PI}
    />
  );
}

function Tiers({ tiers, isLifted, isDark }: { tiers: TierMesh[]; isLifted: boolean; isDark: boolean }) {
  const invalidate = useThree((s) => s.invalidate);
  const geometries = useMemo(
    () =>
      tiers.map((t) => {
        const g = new BufferGeometry();
        g.setAttribute("position", new BufferAttribute(t.positions, 3));
        g.setIndex(new BufferAttribute(t.corners, 1));
        // Own corners for every face, so that each is lit flat.
        const flat = g.toNonIndexed();
        flat.computeVertexNormals();
        g.dispose();
        return flat;
      }),
    [tiers],
  );
  useEffect(() => {
    invalidate();
    return () => {
      for (const g of geometries) g.dispose();
    };
  }, [geometries, invalidate]);
  const total = tiers.reduce((n, t) => n + t.corners.length / 3, 0);
  const colours = COLOURS[isDark ? "dark" : "light"];
  return (
    <>
      {geometries.map((g, i) => {
        const role = ROLES[tiers[i]?.role ?? 1] ?? "wall";
        return (
          <mesh key={g.uuid} geometry={g} position={[0, 0, isLifted ? i * 14 : 0]}>
            <meshStandardMaterial
              color={colours[role]}
              roughness={0.62}
              polygonOffset
              polygonOffsetFactor={1}
              polygonOffsetUnits={1}
            />
            {total < EDGES_UP_TO && <Edges threshold={24} color={colours.line} lineWidth={1} />}
          </mesh>
        );
      })}
    </>
  );
}
