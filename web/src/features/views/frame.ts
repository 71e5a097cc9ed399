import { useLayoutEffect, useState } from "react";

export interface Extent {
  width: number;
  height: number;
}

/** The size of an element, kept up to date. */
export function useExtent(element: HTMLElement | null): Extent {
  const [extent, setExtent] = useState<Extent>({ width: 0, height: 0 });
  useLayoutEffect(() => {
    if (!element) return;
    const measure = () => setExtent({ width: element.clientWidth, height: element.clientHeight });
    measure();
    const observer = new ResizeObserver(measure);
    observer.observe(element);
    return () => observer.disconnect();
  }, [element]);
  return extent;
}

/** A box in millimetres, y down. */
export interface Box {
  x: number;
  y: number;
  width: number;
  height: number;
}

/** A round length for a scale bar that is at most `most` pixels long. */
export function barLength(pxPerUnit: number, most: number): number {
  const steps = [200, 100, 50, 20, 10, 5, 2, 1, 0.5, 0.2, 0.1, 0.05];
  return steps.find((length) => length * pxPerUnit <= most) ?? 0.05;
}

/** Pixels to a millimetre so that a box fits with room around. */
export function fitScale(box: { width: number; height: number }, extent: Extent, room: number): number {
  const w = (extent.width - 2 * room) / Math.max(box.width, 1e-6);
  const h = (extent.height - 2 * room) / Math.max(box.height, 1e-6);
  return Math.max(0.05, Math.min(w, h, 40));
}
