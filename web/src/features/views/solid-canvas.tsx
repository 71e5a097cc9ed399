import { Canvas, type CanvasProps } from "@react-three/fiber";
import { setConsoleFunction } from "three";

// The library that draws for React still makes clocks of a kind that three has put aside; nobody here can do anything about it.
setConsoleFunction((kind, message, ...more) => {
  if (!message.includes("Clock")) console[kind](message, ...more);
});

const ANTIALIAS = !navigator.webdriver;

/** Where solids are drawn; only when something changes. */
export function SolidCanvas(p: CanvasProps) {
  return (
    <Canvas
      frameloop="demand"
      flat
      dpr={ANTIALIAS ? [1, 2] : 1}
      gl={{ antialias: ANTIALIAS, preserveDrawingBuffer: true, alpha: true, localClippingEnabled: true }}
      camera={{ fov: 28, near: 1, far: 4000, up: [0, 0, 1], position: [0, -300, 200] }}
      shadows="percentage"
      {...p}
    />
  );
}
