import { expect, it } from "vitest";
import { pinched } from "./use-pinch";

it("keeps what is under two fingers under them", () => {
  const zoom = { scale: 2, at: [50, 40] as [number, number] };
  const pinch = { times: 1.5, from: { x: 30, y: -10 }, to: { x: 42, y: -4 } };
  for (const way of [1, -1]) {
    const next = pinched(zoom, pinch, 0.1, 100, way);
    expect(next.scale).toBe(3);
    // The place that was at `from` is at `to`.
    const under = (z: typeof next, at: { x: number; y: number }) => [
      z.at[0] + (at.x / z.scale) * way,
      z.at[1] + at.y / z.scale,
    ];
    const [before, after] = [under(zoom, pinch.from), under(next, pinch.to)];
    expect(after[0]).toBeCloseTo(before[0] ?? 0, 9);
    expect(after[1]).toBeCloseTo(before[1] ?? 0, 9);
  }
  expect(pinched(zoom, pinch, 0.1, 2.5).scale).toBe(2.5);
});
