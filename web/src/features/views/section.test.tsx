// @vitest-environment happy-dom
import { cleanup, render } from "@testing-library/react";
import { afterEach, expect, it } from "vitest";
import type { Bench } from "../../api/bench";
import type { CutView } from "../../api/generated/CutView";
import { useInterface } from "../../state/interface";
import { SectionDrawing, sectionTop } from "./section";
import { tierView as tier } from "./tier-view.test-env";

afterEach(cleanup);

const box = (tier: number, x0: number, x1: number, z0: number, z1: number): CutView => ({
  tier,
  role: tier === 0 ? "flange" : "wall",
  is_cut: false,
  corners: [
    [x0, z0],
    [x1, z0],
    [x1, z1],
    [x0, z1],
  ],
});

/** A wall 15 mm high on the right of a flange of 2 mm. */
const bench = {
  design: { document: { unit: "mm", tiers: [] } },
  result: {
    is_mirrored: false,
    is_painted: false,
    layer: 0.2,
    first_layer: 0.2,
    measures: [
      {
        name: "wall-height",
        group: "Wall",
        label: "Height",
        is_length: true,
        min: 2,
        max: 60,
        step: 0.2,
        value: 15,
      },
    ],
    section: [box(0, -20, 20, 0, 2), box(1, 10, 11.6, 0, 15)],
    tiers: [
      tier("flange", 2, []),
      tier("wall", 15, [{ moves: "top", name: "wall-height", own: null, base: 0, is_down: false }]),
    ],
  },
  settle: () => undefined,
} as unknown as Bench;

it("the section is to scale, its highest point known before it is drawn", () => {
  expect(sectionTop(bench)).toBe(15);
  const { container } = render(
    <SectionDrawing bench={bench} side="cookie" scale={4} extent={{ width: 400, height: 160 }} />,
  );
  const heightOf = (path: Element) => {
    const ys = [...(path.getAttribute("points") ?? "").matchAll(/[-\d.]+[ ,]([-\d.]+)/g)];
    const all = ys.map((m) => Number(m[1]));
    return Math.max(...all) - Math.min(...all);
  };
  const faces = [...container.querySelectorAll("polygon")].map(heightOf);
  expect(faces).toEqual([8, 60]);
});

it("what a measure moves has a handle that says its value and range", () => {
  const { container } = render(
    <SectionDrawing bench={bench} side="cookie" scale={4} extent={{ width: 400, height: 160 }} />,
  );
  const handle = container.querySelector("[data-handle='wall-height']");
  const said = ["aria-valuenow", "aria-valuemin", "aria-valuemax"].map((a) => handle?.getAttribute(a));
  expect(said).toEqual(["15", "2", "60"]);
  expect(handle?.getAttribute("role")).toBe("slider");
});

it("stretches heights, and says so; widths stay those of the plan", () => {
  const drawn = () => {
    const { container } = render(
      <SectionDrawing bench={bench} side="cookie" scale={4} extent={{ width: 400, height: 300 }} />,
    );
    const points = container.querySelector("[data-cut=wall]")?.getAttribute("points")?.split(" ") ?? [];
    const all = points.map((p) => p.split(",").map(Number));
    const span = (k: number) =>
      Math.max(...all.map((p) => p[k] ?? 0)) - Math.min(...all.map((p) => p[k] ?? 0));
    return { wide: span(0), high: span(1), says: container.querySelector("[data-stretch]")?.textContent };
  };
  const once = drawn();
  useInterface.setState({ stretch: 4 });
  const often = drawn();
  useInterface.setState({ stretch: 1 });
  expect([once.high, often.high, often.wide - once.wide]).toEqual([60, 240, 0]);
  expect([once.says, often.says]).toEqual([undefined, "heights 4 times as high as they are"]);
});
