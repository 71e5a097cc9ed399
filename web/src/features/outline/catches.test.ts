import { beforeEach, describe, expect, it } from "vitest";
import type { DesignView } from "../../api/generated/DesignView";
import { caughtAt, piecesNear, type Things, thingsOf, useCatches } from "./catches";
import { cubicsOf } from "./lines";

const things: Things = {
  pieces: piecesNear(cubicsOf("M0 0L100 0L100 40L0 40Z")),
  origin: [50, 20],
  mm: 0.5,
  guides: [{ is_upright: true, at: 70 }],
  axes: [[30], []],
};
const all = { nodes: true, middles: true, edges: true, centre: true, guides: true, grid: true };
const none = { nodes: false, middles: false, edges: false, centre: false, guides: false, grid: false };

describe("what a pointer catches", () => {
  it("is the nearest node or middle before anything else", () => {
    expect(caughtAt([97, 2], 5, things, all)).toMatchObject({ at: [100, 0], what: "node" });
    expect(caughtAt([51, 2], 5, things, all)).toMatchObject({ at: [50, 0], what: "middle" });
  });

  it("is a guide or a centre line in one direction, or where they cross", () => {
    expect(caughtAt([72, 12], 5, things, { ...none, guides: true })).toEqual({ at: [70, 12], what: "guide" });
    expect(caughtAt([72, 22], 5, things, { ...none, guides: true, centre: true })).toEqual({
      at: [70, 20],
      what: "guide",
    });
    expect(caughtAt([20, 23], 5, things, { ...none, centre: true })).toEqual({
      at: [20, 20],
      what: "centre line",
    });
  });

  it("is an axis of symmetry of what lies there, for marks of entries alone", () => {
    expect(caughtAt([28, 12], 5, things, { ...none, centre: true })).toEqual({
      at: [30, 12],
      what: "axis of symmetry",
    });
    const design = {
      document: { guides: [] },
      result: {
        outline: null,
        patches: [{ path: "M10 0L50 0L40 30L20 30Z", root: null }],
      },
    } as unknown as DesignView;
    expect(thingsOf(design).axes).toEqual([[], []]);
    const [upright, level] = thingsOf(design, 4).axes;
    expect(upright?.[0]).toBeCloseTo(30, 6);
    expect(level).toEqual([]);
  });

  it("is where a guide crosses a line, before the guide alone", () => {
    const on = { ...none, guides: true, edges: true };
    expect(caughtAt([72, 38.5], 5, things, on)).toMatchObject({ at: [70, 40], what: "guide, on the line" });
    expect(caughtAt([72, 30], 5, things, on)).toEqual({ at: [70, 30], what: "guide" });
    const curve = { ...things, pieces: piecesNear(cubicsOf("M50 0C60 0 80 20 80 40")) };
    const [x, y] = caughtAt([71, 18], 5, curve, on).at;
    expect(x).toBeCloseTo(70, 6);
    expect(y).toBeGreaterThan(10);
  });

  it("is the place on an edge, or a millimetre of the grid", () => {
    expect(caughtAt([30, 3], 5, things, { ...none, edges: true })).toMatchObject({
      at: [30, 0],
      what: "edge",
    });
    // Half a millimetre a pixel: the grid has a line every two.
    expect(caughtAt([30.9, 11.2], 5, things, { ...none, grid: true })).toEqual({
      at: [30, 12],
      what: "grid",
    });
  });

  it("is nothing where all is switched off or too far", () => {
    expect(caughtAt([97, 2], 5, things, none)).toMatchObject({ at: [97, 2], what: null });
    expect(caughtAt([60, 11], 5, things, { ...all, grid: false, centre: false })).toMatchObject({
      what: null,
    });
  });
});

describe("the switches", () => {
  beforeEach(() => useCatches.setState({ on: { ...none } }));
  it("are turned one by one", () => {
    useCatches.getState().toggle("grid");
    expect(useCatches.getState().on).toEqual({ ...none, grid: true });
  });
});

it("what an entry has made does not catch its own mark", () => {
  const square = "M0 0L100 0L100 40L0 40Z";
  const made = { root: { from: "made", by: 4, nth: 0 }, path: square };
  const design = {
    result: { patches: [made, { root: null, path: "M300 0L310 0L310 9L300 9Z" }], outline: null },
    document: { guides: [] },
  } as unknown as DesignView;
  const on = { nodes: true, middles: false, edges: true, centre: false, guides: false, grid: false };
  expect(caughtAt([99, 1], 5, thingsOf(design), on)).toMatchObject({ at: [100, 0], what: "node" });
  expect(caughtAt([99, 1], 5, thingsOf(design, 4), on).what).toBeNull();
  expect(caughtAt([301, 1], 5, thingsOf(design, 4), on).what).toBe("node");
});
