import { expect, it } from "vitest";
import type { HandleView } from "../../api/generated/HandleView";
import { placesOf } from "./section-places";
import { tierView } from "./tier-view.test-env";

const tier = (top: number, finish: [number, number] | null, handles: HandleView[]) =>
  tierView("wall", top, handles, finish);

const handle = (moves: HandleView["moves"], name: string): HandleView => ({
  moves,
  name,
  own: null,
  base: 0,
  is_down: false,
});

const BED = 100;
const box = { left: 40, middle: 43, right: 46 };
const tip = handle("inset", "taper-in");
const wall = [handle("top", "wall-height"), tip, handle("depth", "taper-down")];
const stamp = handle("top", "stamp-height");

it("no handle covers the middle of another, however small what they move is drawn", () => {
  for (const kz of [0.5, 1, 2, 3.8, 8, 16])
    for (const down of [0.2, 1, 3, 6]) {
      const t = tier(15, [0.5, down], wall);
      const low = tier(14.8, null, [stamp]);
      const all = [...wall.map((h) => ({ tier: t, handle: h, box })), { tier: low, handle: stamp, box }];
      const placed = placesOf(all, BED, kz, null);
      expect(placed).toHaveLength(4);
      placed.forEach((a, i) => {
        for (const b of placed.slice(i + 1))
          expect(Math.abs(a.x - b.x) >= 26 || Math.abs(a.y - b.y) >= 13, `${kz} ${down}`).toBe(true);
      });
    }
});

it("a finish is taken hold of at its tip and foot where those are apart, else the tip higher, with a line to it", () => {
  const placed = (kz: number) =>
    placesOf([{ tier: tier(15, [0.5, 3], wall), handle: tip, box }], BED, kz, null)[0];
  expect([placed(10)?.y, placed(10)?.edge]).toEqual([BED - 150, BED - 150]);
  expect([placed(2)?.y, placed(2)?.edge]).toEqual([BED - 30 + 6 - 24, BED - 30]);
});

it("what has no room where it belongs steps inwards, to where no dimension stands", () => {
  const at = (right: number, h: HandleView) => ({
    tier: tier(15, [0.5, 3], []),
    handle: h,
    box: { left: 10, middle: 20, right },
  });
  const own = { ...tip, name: "own-tip" };
  expect(placesOf([at(300, tip), at(290, own)], BED, 4, null).map((p) => p.x)).toEqual([300, 264]);
  const heights = [at(300, stamp), at(300, { ...stamp, name: "own-height" })];
  expect(placesOf(heights, BED, 4, null).map((p) => p.x)).toEqual([20, 46]);
});

it("a square edge has no handle, and a measure has one however many tiers it moves", () => {
  const square = tier(15, null, wall);
  const twice = [square, square].flatMap((t) => t.handles.map((h) => ({ tier: t, handle: h, box })));
  expect(placesOf(twice, BED, 4, null).map((p) => p.handle.name)).toEqual(["wall-height"]);
  // Dragged to nothing, it stays in the hand.
  const held = square.handles.map((handle) => ({ tier: square, handle, box }));
  expect(placesOf(held, BED, 4, "taper-in").map((p) => p.handle.name)).toEqual(["wall-height", "taper-in"]);
});
