import { describe, expect, it } from "vitest";
import type { PatchView } from "../../../api/generated/PatchView";
import type { Px } from "../../artwork/frame";
import { choosing, type Drag, type Effect, type PointerStep } from "./choosing";

const square = (l: number, t: number, side: number): PatchView => ({
  at: [l + side / 2, t + side / 2],
  is_ink: true,
  use: "detail",
  depth: 0,
  parent: null,
  area: null,
  perimeter: null,
  span: [l, t, l + side, t + side],
  is_pinned: false,
  path: `M${l} ${t}L${l + side} ${t}L${l + side} ${t + side}L${l} ${t + side}Z`,
  colour: null,
  filament: null,
  group: null,
  root: null,
});
const patches = [square(0, 0, 10), square(20, 0, 10), square(40, 0, 10)];

/** Plays steps of the pointer and gives all that was to be done. */
function play(steps: [PointerStep["kind"], Px, Partial<PointerStep>?][], chosen: number[] = []): Effect[] {
  let drag: Drag | null = null;
  const all: Effect[] = [];
  for (const [kind, bare, more] of steps) {
    const e: PointerStep = { kind, bare, patch: null, scale: 1, isShift: false, isAlt: false, ...more };
    const next = choosing(drag, e, { patches, chosen });
    drag = next.drag;
    all.push(...next.effects);
  }
  expect(drag).toBeNull();
  return all;
}

describe("choosing", () => {
  it("chooses the patch under a click alone, and lets go beside all of them", () => {
    expect(
      play([
        ["down", [5, 5], { patch: 0 }],
        ["up", [5, 5]],
      ]),
    ).toEqual([{ kind: "choose", chosen: [0] }]);
    expect(
      play(
        [
          ["down", [15, 5]],
          ["up", [15, 5]],
        ],
        [1],
      ),
    ).toEqual([{ kind: "choose", chosen: [] }]);
  });

  it("chooses the patch that the button went down on, of several that are chosen", () => {
    expect(
      play(
        [
          ["down", [25, 5], { patch: 1 }],
          ["up", [25, 5]],
        ],
        [0, 1, 2],
      ),
    ).toEqual([{ kind: "settle" }, { kind: "choose", chosen: [1] }]);
  });

  it("adds and takes away with Shift", () => {
    const press = (patch: number, chosen: number[]) =>
      play(
        [
          ["down", [5, 5], { patch, isShift: true }],
          ["up", [5, 5], { isShift: true }],
        ],
        chosen,
      );
    expect(press(1, [0])).toEqual([{ kind: "choose", chosen: [0, 1] }]);
    expect(press(1, [0, 1])).toEqual([{ kind: "choose", chosen: [0] }]);
  });

  it("a hand that shakes still clicks; one that drags frames what lies wholly within", () => {
    expect(
      play([
        ["down", [5, 5], { patch: 0 }],
        ["move", [7, 7]],
        ["up", [7, 7]],
      ]),
    ).toEqual([{ kind: "choose", chosen: [0] }]);
    const frame = play([
      ["down", [-5, -5]],
      ["move", [3, 3]],
      ["move", [35, 15]],
      ["up", [35, 15]],
    ]);
    expect(frame).toEqual([{ kind: "choose", chosen: [0, 1] }]);
    const cut = play([
      ["down", [-5, -5]],
      ["move", [25, 15]],
      ["up", [25, 15]],
    ]);
    expect(cut).toEqual([{ kind: "choose", chosen: [0] }]);
  });

  it("loops with Alt", () => {
    const around: Px[] = [
      [55, -5],
      [55, 15],
      [35, 15],
    ];
    const steps: [PointerStep["kind"], Px, Partial<PointerStep>?][] = [
      ["down", [35, -5], { isAlt: true }],
      ...around.map((at): ["move", Px] => ["move", at]),
      ["up", [35, 15]],
    ];
    expect(play(steps)).toEqual([{ kind: "choose", chosen: [2] }]);
  });

  it("moves what is chosen, shown while it moves and kept once", () => {
    const moved = play(
      [
        ["down", [5, 5], { patch: 0 }],
        ["move", [15, 5]],
        ["move", [25, 9]],
        ["up", [25, 9]],
      ],
      [0],
    );
    expect(moved).toEqual([
      { kind: "preview-move", by: [10, 0] },
      { kind: "preview-move", by: [20, 4] },
      { kind: "move", by: [20, 4] },
    ]);
    const click = play(
      [
        ["down", [5, 5], { patch: 0 }],
        ["move", [6, 5]],
        ["up", [6, 5], { patch: 0 }],
      ],
      [0],
    );
    expect(click).toEqual([
      { kind: "preview-move", by: [1, 0] },
      { kind: "settle" },
      { kind: "choose", chosen: [0] },
    ]);
  });
});
