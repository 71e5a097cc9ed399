import { Canvas, type CanvasProps, useFrame } from "@react-three/fiber";
import { setConsoleFunction } from "three";
import { useInterface } from "../../state/interface";

// The library that draws for React still makes clocks of a kind that three has put aside; nobody here can do anything about it.
setConsoleFunction((kind, message, ...more) => {
  if (!message.includes("Clock")) console[kind](message, ...more);
});

const ANTIALIAS = !navigator.webdriver;

/** A frame that takes longer is slow, ms: it is drawn by the processor. */
const SLOW_MS = 60;

/** Tells whether frames are slow. */
function Pace({ onSlow }: { onSlow: () => void }) {
  useFrame(() => {
    const from = performance.now();
    requestAnimationFrame(() => performance.now() - from > SLOW_MS && onSlow());
  });
  return null;
}

/** Where solids are drawn; only when something changes. */
export function SolidCanvas({ children, ...p }: CanvasProps) {
  const isDragging = useInterface((s) => s.held !== null);
  const isSlow = useInterface((s) => s.isSlow);
  return (
    <Canvas
      frameloop="demand"
      flat
      dpr={isDragging && isSlow ? 0.5 : ANTIALIAS ? [1, 2] : 1}
      gl={{ antialias: ANTIALIAS, preserveDrawingBuffer: true, alpha: true, localClippingEnabled: true }}
      camera={{ fov: 28, near: 1, far: 4000, up: [0, 0, 1], position: [0, -300, 200] }}
      shadows="percentage"
      {...p}
    >
      <Pace onSlow={() => useInterface.setState({ isSlow: true })} />
      {children}
    </Canvas>
  );
}
