import { useEffect } from "react";
import type { Zoom } from "./canvas-view";

/** What is seen once stays where it is: the view is fitted on opening and when somebody asks, never while a hand works. */
export function Settled(p: {
  zoom: Zoom | null;
  scale: number;
  x: number;
  y: number;
  setZoom: (z: Zoom) => void;
}) {
  const { zoom, scale, x, y, setZoom } = p;
  useEffect(() => {
    if (!zoom) setZoom({ scale, at: [x, y] });
  }, [zoom, scale, x, y, setZoom]);
  return null;
}
