import { Edges, OrbitControls } from "@react-three/drei";
import { Canvas, useThree } from "@react-three/fiber";
import { useQuery } from "@tanstack/react-query";
import { type RefObject, useEffect, useMemo, useRef, useState } from "react";
import {
  BufferAttribute,
  BufferGeometry,
  type Camera,
  Color,
  DoubleSide,
  FrontSide,
  MathUtils,
  Plane,
  Vector3,
} from "three";
import { api } from "../../api/client";
import type { TierView } from "../../api/generated/TierView";
import type { Unit } from "../../api/generated/Unit";
import { useInterface } from "../../state/interface";
import { familyOf } from "./look";
import { boxOf, coarsened, readMesh, type TierMesh } from "./mesh";
import { distanceTo, farther, radiusOf } from "./solid-frame";
import { MeasureFigures, SolidMeasures } from "./solid-measures";

export type NamedView = "stand" | "top" | "bottom" | "front" | "right";

/** What the panel can ask of the view. */
export interface SolidHold {
  /** Saves what is seen as PNG. */
  save: (name: string, isTransparent: boolean) => void;
}

interface Props {
  /** By this the mesh is fetched. */
  meshKey: string;
  size: [number, number, number];
  /** Tiers whose filaments colour the parts; null where all is one filament. */
  colours: readonly TierView[] | null;
  isLifted: boolean;
  isClear: boolean;
  /** Cut open along the section. */
  isCut: boolean;
  isMirrored: boolean;
  isDark: boolean;
  /** Its measures are drawn round it, in this unit. */
  measures: Unit | null;
  /** The view to stand at; the count rises to ask for it again. */
  view: { name: NamedView; count: number };
  hold: RefObject<SolidHold | null>;
}

const COLOURS = {
  light: {
    flange: "#a9cbb0",
    wall: "#2f7d84",
    stamp: "#d9974f",
    room: "#a9cbb0",
    bed: "#e9e1d2",
    line: "#14343a",
    measure: "#5b7074",
  },
  dark: {
    flange: "#5d8f72",
    wall: "#4fa9a8",
    stamp: "#d9974f",
    room: "#5d8f72",
    bed: "#0c1d21",
    line: "#071417",
    measure: "#9fb4b4",
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
/** Above this many triangles edges cost more than they show, and a coarser mesh stands in while it turns. */
const EDGES_UP_TO = 60_000;
/** Cells of the coarser mesh along the longest side. */
const COARSE_CELLS = 140;
/** Milliseconds without a turn after which the whole mesh is drawn again. */
const REST_MS = 180;

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
  const [isTurning, setTurning] = useState(false);
  const isMeasured = p.measures !== null;
  const box = useMemo(() => (data && isMeasured ? boxOf(data) : null), [data, isMeasured]);
  const figures = useRef<HTMLDivElement>(null);
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
      >
        <hemisphereLight args={["#ffffff", p.isDark ? "#48646a" : "#d8d0c0", 1.9]} />
        <directionalLight position={[-120, -200, 320]} intensity={2.1} />
        <View size={p.size} view={p.view} hold={p.hold} onTurning={setTurning} />
        {data && <Tiers tiers={data} isTurning={isTurning} {...p} />}
        {p.measures && box && (
          <SolidMeasures
            low={box.low}
            high={box.high}
            figures={figures}
            colour={COLOURS[p.isDark ? "dark" : "light"].measure}
          />
        )}
        <mesh position={[0, 0, -0.05]} name="bed">
          <circleGeometry args={[Math.hypot(p.size[0], p.size[1]) * 0.5, 96]} />
          <meshBasicMaterial color={COLOURS[p.isDark ? "dark" : "light"].bed} />
        </mesh>
      </Canvas>
      {p.measures && box && <MeasureFigures low={box.low} high={box.high} unit={p.measures} hold={figures} />}
    </>
  );
}

/** Where each named view looks from. */
const FROM: Record<NamedView, [number, number, number]> = {
  stand: [0.28, -0.78, 0.62],
  top: [0, -0.001, 1],
  bottom: [0, -0.001, -1],
  front: [0, -1, 0.02],
  right: [1, 0, 0.02],
};

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
  onTurning,
}: Pick<Props, "size" | "view" | "hold"> & { onTurning: (is: boolean) => void }) {
  const rest = useRef(0);
  const camera = useThree((s) => s.camera);
  const invalidate = useThree((s) => s.invalidate);
  const gl = useThree((s) => s.gl);
  const scene = useThree((s) => s.scene);
  const extent = useThree((s) => s.size);
  const controls = useRef<{ target: Vector3; update: () => void } | null>(null);
  // A new size of the object keeps the maker's direction, and the distance too unless it is quite another size; only a
  // reset or a new panel brings the first view back.
  const first = useRef(size);
  first.current = size;
  const framed = useRef(0);
  // biome-ignore lint/correctness/useExhaustiveDependencies: the count is a trigger
  useEffect(() => {
    stand(camera, first.current, 28, extent.width / Math.max(1, extent.height), FROM[view.name]);
    framed.current = radiusOf(first.current);
    controls.current?.target.set(0, 0, first.current[2] / 2);
    controls.current?.update();
    invalidate();
  }, [camera, extent.width, extent.height, invalidate, view.count]);
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
          if (!png) return;
          const link = document.createElement("a");
          link.href = URL.createObjectURL(png);
          link.download = `${name}.png`;
          link.click();
          URL.revokeObjectURL(link.href);
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
  return (
    <OrbitControls
      ref={(c) => {
        controls.current = c as unknown as typeof controls.current;
      }}
      makeDefault
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

/** Geometries of meshes, until others come. */
function useGeometries(tiers: TierMesh[]): BufferGeometry[] {
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
  return geometries;
}

const trianglesOf = (tiers: readonly TierMesh[]) => tiers.reduce((n, t) => n + t.corners.length / 3, 0);

function Tiers(p: Props & { tiers: TierMesh[]; isTurning: boolean }) {
  const { tiers: whole, isLifted, isDark } = p;
  const invalidate = useThree((s) => s.invalidate);
  const isLarge = trianglesOf(whole) >= EDGES_UP_TO;
  const cell = Math.max(...p.size) / COARSE_CELLS;
  // Made when the mesh is first turned: most never are.
  const [turnedOne, setTurnedOne] = useState<TierMesh[] | null>(null);
  if (p.isTurning && isLarge && turnedOne !== whole) setTurnedOne(whole);
  const coarse = useMemo(
    () => (turnedOne === whole ? whole.map((t) => coarsened(t, cell)) : []),
    [cell, turnedOne, whole],
  );
  const fineOnes = useGeometries(whole);
  const coarseOnes = useGeometries(coarse);
  const [tiers, geometries] = p.isTurning && isLarge ? [coarse, coarseOnes] : [whole, fineOnes];
  const colours = COLOURS[isDark ? "dark" : "light"];
  const section = useInterface((s) => s.section);
  const turned = useInterface((s) => s.turned);
  // What lies in front of A–A is taken away. The solid is the tool: its mirror image turns the other way.
  const planes = useMemo(() => {
    if (!p.isCut) return [];
    const a = ((p.isMirrored ? -turned : turned) * Math.PI) / 180;
    const normal = new Vector3(-Math.sin(a), Math.cos(a), 0);
    return [new Plane(normal, -section * Math.cos(a))];
  }, [p.isCut, p.isMirrored, section, turned]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: how it is shown is the trigger
  useEffect(() => invalidate(), [invalidate, p.isClear, p.colours, p.isTurning, planes, isLifted, isDark]);
  const byPart = useMemo(() => {
    const filaments = [...new Set((p.colours ?? []).filter((t) => !t.is_cut).map((t) => t.filament))];
    return filaments.map((f) => p.colours?.find((t) => t.filament === f && !t.is_cut)?.colour ?? [0, 0, 0]);
  }, [p.colours]);
  return (
    <>
      {geometries.map((g, i) => {
        const family = familyOf(ROLES[tiers[i]?.role ?? 1] ?? "wall");
        const filament = byPart[tiers[i]?.part ?? 0];
        return (
          <mesh key={g.uuid} geometry={g} position={[0, 0, isLifted ? i * 14 : 0]}>
            <meshStandardMaterial
              color={filament ? `rgb(${filament.join(",")})` : colours[family]}
              transparent={p.isClear}
              opacity={p.isClear ? 0.38 : 1}
              depthWrite={!p.isClear}
              clippingPlanes={planes}
              side={p.isCut ? DoubleSide : FrontSide}
              roughness={0.62}
              polygonOffset
              polygonOffsetFactor={1}
              polygonOffsetUnits={1}
            />
            {!isLarge && <Edges threshold={24} color={colours.line} lineWidth={1} />}
          </mesh>
        );
      })}
    </>
  );
}
