import { expect, test } from "vitest";
import type { PlanGroup } from "../../api/generated/PlanGroup";
import { laidOf, measuredOf, posed, strokesOf } from "./laid";

const line = (path: string) => ({
  kind: "outer" as const,
  width: 0.4,
  colour: [1, 2, 3] as [number, number, number],
  path,
});

test("a path falls into its lines, closed ones with their last side", () => {
  const [open, closed] = strokesOf("M0 0L3 4M0 0L10 0L10 10L0 10Z");
  expect(open?.length).toBe(5);
  expect(closed?.length).toBe(40);
  expect(closed?.points.at(-1)).toEqual([0, 0]);
});

test("a pose turns anticlockwise as seen from above and moves up for a larger y", () => {
  // y is down here: a point to the right is turned up.
  const [x, y] = posed([10, 0], { x: 100, y: 50, degrees: 90 });
  expect(x).toBeCloseTo(100);
  expect(y).toBeCloseTo(-60);
});

test("what is laid grows from place to place, and the nozzle is at its end", () => {
  const at = (x: number) => ({ x, y: 0, degrees: 0 });
  const groups: PlanGroup[] = [{ lines: [line("M0 0L10 0M0 5L10 5")], poses: [at(0), at(100)] }];
  expect(laidOf(measuredOf(groups), 0)).toEqual({ laid: [], nozzle: null });
  const half = laidOf(measuredOf(groups), 0.5);
  expect(half.laid).toEqual([{ lines: groups[0]?.lines, poses: [at(0)] }]);
  expect(half.nozzle).toEqual([10, 5]);
  const more = laidOf(measuredOf(groups), 0.625);
  expect(more.laid[1]?.lines[0]?.path).toBe("M0 0L5 0");
  expect(more.nozzle).toEqual([105, 0]);
  expect(laidOf(measuredOf(groups), 1).laid).toHaveLength(2);
});
