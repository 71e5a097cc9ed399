import { useQuery } from "@tanstack/react-query";
import type { ReactNode } from "react";
import { Quaternion, Vector3 } from "three";
import { api } from "../../api/client";
import type { InUseView } from "../../api/generated/InUseView";
import type { TiltView } from "../../api/generated/TiltView";
import { readMesh, type TierMesh } from "../../api/mesh";
import { Creases } from "./solid-creases";
import { facesOf, linesOf, useGeometries } from "./solid-geometries";
import { SolidPlaces } from "./solid-places";
import { COLOURS } from "./solid-tiers";
import type { InUse } from "./use-in-use";
import type { UseScene } from "./use-scene";

const LOOK: Record<InUseView["materials"][number], { colour: string; opacity: number }> = {
  dough: { colour: "#e3c290", opacity: 1 },
  paper: { colour: "#fbf8f0", opacity: 1 },
  ink: { colour: "#1f3a52", opacity: 1 },
  cup: { colour: "#9db9bd", opacity: 0.42 },
  nail: { colour: "#7b868a", opacity: 1 },
  steel: { colour: "#bcc6c9", opacity: 1 },
};

const NONE: TierMesh[] = [];

/** What an object in use is seen with: its cookie, its print, the cup on it. */
function Things({ meshKey, use, isDark }: { meshKey: string; use: InUse; isDark: boolean }) {
  const { data } = useQuery({
    queryKey: ["in-use-mesh", meshKey, use.asked],
    queryFn: async () => readMesh(await api.inUseMesh(meshKey, use.asked)),
    placeholderData: (old) => old,
    gcTime: 0,
    retry: 1,
  });
  const tiers = data ?? NONE;
  const geometries = useGeometries(tiers, facesOf);
  const lines = useGeometries(tiers, linesOf);
  const day = isDark ? "dark" : "light";
  return geometries.map((g, i) => {
    const look = LOOK[use.materials[tiers[i]?.part ?? 0] ?? "paper"];
    return (
      // biome-ignore lint/suspicious/noArrayIndexKey: a thing of the next mesh takes the place of this one's
      <mesh key={i} geometry={g} name="in-use">
        <meshStandardMaterial
          color={look.colour}
          transparent={look.opacity < 1}
          opacity={look.opacity}
          depthWrite={look.opacity === 1}
          flatShading
          roughness={0.8}
          polygonOffset
          polygonOffsetFactor={1}
          polygonOffsetUnits={1}
        />
        <Creases geometry={lines[i]} colour={COLOURS[day].line} />
      </mesh>
    );
  });
}

/** Turns a cup that rocks about the line on which it tips. */
function Tipped({ tilt, children }: { tilt: TiltView | null; children: ReactNode }) {
  if (!tilt) return children;
  const along = (tilt.along * Math.PI) / 180;
  const turn = new Quaternion().setFromAxisAngle(
    new Vector3(Math.cos(along), Math.sin(along), 0),
    (tilt.degrees * Math.PI) / 180,
  );
  const [x, y, z] = tilt.at;
  return (
    <group position={[x, y, z]} quaternion={turn}>
      <group position={[-x, -y, -z]}>{children}</group>
    </group>
  );
}

/** The object and what it is seen with, where they stand in use. */
export function UseGroup(p: {
  meshKey: string;
  use: InUse;
  scene: UseScene;
  isDark: boolean;
  children: ReactNode;
}) {
  const { use, scene } = p;
  const colour = COLOURS[p.isDark ? "dark" : "light"].mark;
  return (
    <group position={[0, 0, scene.lift]} rotation={[scene.turn === null ? 0 : Math.PI / 2, 0, 0]}>
      <group rotation={[0, 0, scene.turn ?? 0]}>
        <group position={[scene.object, 0, 0]}>{p.children}</group>
        <group position={[scene.thing, 0, 0]}>
          <Tipped tilt={use.cup?.tilt ?? null}>
            {use.size && <Things meshKey={p.meshKey} use={use} isDark={p.isDark} />}
          </Tipped>
          {use.places.length > 0 && (
            <SolidPlaces marked={{ places: use.places, look: null }} size={scene.size} colour={colour} />
          )}
        </group>
      </group>
    </group>
  );
}
