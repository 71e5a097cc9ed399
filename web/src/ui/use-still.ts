import { useInterface } from "../state/interface";
import { useCalmed } from "./use-calmed";

/** While a handle is held, what does not move with it follows so often, ms. */
const EVERY_MS = 250;

/** For what stands beside a drawing: while a handle is held it comes seldom, so that the drawing has the time. */
export function useStill<T>(value: T): T {
  const isDragging = useInterface((s) => s.held !== null);
  return useCalmed(value, isDragging ? EVERY_MS : 0);
}
