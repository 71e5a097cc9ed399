import { useQuery } from "@tanstack/react-query";
import { memo, useEffect, useMemo, useRef, useState } from "react";
import type { TierMesh } from "../../api/mesh";
import { meshQuery } from "../../api/mesh-query";
import { useInterface } from "../../state/interface";
import { isSame } from "../../ui/is-same";
import { Light } from "./light";
import { boxOf } from "./mesh";
import { SolidCanvas } from "./solid-canvas";
import { radiusOf } from "./solid-frame";
import { SolidLines } from "./solid-lines";
import { MeasureFigures, SolidMeasures } from "./solid-measures";
import { SolidPlaces } from "./solid-places";
import type { SolidProps } from "./solid-props";
import { COLOURS, Tiers } from "./solid-tiers";
import { SolidView } from "./solid-view";
import { sceneOf } from "./use-scene";
import { UseGroup } from "./use-things";

/** The object in three dimensions. Draws only when something changes. */
export function Solid(p: SolidProps) {
  // The last mesh stays while the next one is on its way, and so does all that belongs to it: one frame a mesh. What is asked for is
  // waited for: else none would ever be seen where they change faster than they come.
  const [asked, setAsked] = useState(p);
  const [held, setHeld] = useState(p);
  const { data, isPlaceholderData, isError } = useQuery({
    ...meshQuery(asked.meshKey),
    placeholderData: (old) => old,
  });
  if (!isPlaceholderData && held !== asked) setHeld(asked);
  // A result that says the same, as where only the section has moved, is no reason to draw the solid again.
  if ((!isPlaceholderData || isError) && !isSame(asked, p)) setAsked(p);
  return <Scene {...held} data={data} />;
}

/** Says which mesh is on the screen: the frame after the one that draws it. */
function useDrawn(key: string | null) {
  useEffect(() => {
    let frame = requestAnimationFrame(() => {
      frame = requestAnimationFrame(() => useInterface.setState({ drawn: key }));
    });
    return () => cancelAnimationFrame(frame);
  }, [key]);
}

const Scene = memo(function Scene(p: SolidProps & { data: TierMesh[] | undefined }) {
  const { data } = p;
  const [isTurning, setTurning] = useState(false);
  const isMeasured = p.measures !== null;
  const box = useMemo(() => (data && isMeasured ? boxOf(data) : null), [data, isMeasured]);
  const figures = useRef<HTMLDivElement>(null);
  const day = p.isDark ? "dark" : "light";
  useDrawn(data ? p.meshKey : null);
  const scene = useMemo(() => p.use && sceneOf(p.use, p.size), [p.use, p.size]);
  const size = scene?.size ?? p.size;
  const isUpright = scene !== null && scene.turn !== null;
  const tiers = data && <Tiers tiers={data} isTurning={isTurning} {...p} />;
  return (
    <>
      <SolidCanvas
        data-mesh={data ? p.meshKey : ""}
        data-turning={isTurning || undefined}
        data-use={p.use?.title}
        data-marked={p.marked?.places.length || undefined}
      >
        <Light isDark={p.isDark} degrees={p.use?.light ?? null} reach={radiusOf(size)} />
        <SolidView size={size} view={p.view} hold={p.hold} twins={p.twins} onTurning={setTurning} />
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
      </SolidCanvas>
      {p.measures && box && !scene && (
        <MeasureFigures low={box.low} high={box.high} unit={p.measures} hold={figures} />
      )}
    </>
  );
});
