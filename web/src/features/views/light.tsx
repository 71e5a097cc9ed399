/** Daylight from above, or raking light from one side that throws shadows. */
export function Light(p: { isDark: boolean; degrees: number | null; reach: number }) {
  if (p.degrees === null)
    return (
      <>
        <hemisphereLight args={["#ffffff", p.isDark ? "#48646a" : "#d8d0c0", 1.9]} />
        <directionalLight position={[-120, -200, 320]} intensity={2.1} />
      </>
    );
  const above = (p.degrees * Math.PI) / 180;
  const far = 4 * p.reach;
  const at: [number, number, number] = [
    -far * Math.cos(above) * 0.94,
    far * Math.cos(above) * 0.34,
    far * Math.sin(above),
  ];
  return (
    <>
      <hemisphereLight args={["#ffffff", "#a09a8c", 0.5]} />
      <directionalLight
        position={at}
        intensity={4.2}
        castShadow
        shadow-mapSize={[2048, 2048]}
        shadow-bias={-0.0006}
        shadow-camera-left={-1.2 * p.reach}
        shadow-camera-right={1.2 * p.reach}
        shadow-camera-top={1.2 * p.reach}
        shadow-camera-bottom={-1.2 * p.reach}
        shadow-camera-near={0.5}
        shadow-camera-far={2 * far}
      />
    </>
  );
}
