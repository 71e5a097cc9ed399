import { describe, expect, it } from "vitest";
import type { InUseView } from "../../api/generated/InUseView";
import { sceneOf } from "./use-scene";

const use = (with_: Partial<InUseView>): InUseView => ({
  title: "",
  says: "",
  leaves_out: "",
  is_beside: false,
  upright: null,
  light: null,
  size: null,
  materials: [],
  cup: null,
  places: [],
  ...with_,
});

describe("the scene of an object in use", () => {
  it("puts what stands beside it to the left, without a touch", () => {
    const s = sceneOf(use({ is_beside: true, size: [40, 30, 6] }), [50, 40, 15]);
    expect(s.size).toEqual([96, 40, 15]);
    expect(s.object - 25).toBeCloseTo(s.thing + 20 + 6);
    expect(s.object + 25).toBeCloseTo(48);
    expect(s.thing - 20).toBeCloseTo(-48);
  });

  it("stands what hangs upright, as high as it is when turned", () => {
    const quarter = sceneOf(use({ upright: -90, size: [4, 4, 10] }), [60, 20, 3]);
    expect(quarter.size[0]).toBeCloseTo(20);
    expect(quarter.size[2]).toBeCloseTo(60);
    expect(quarter.lift).toBeCloseTo(30);
    expect(sceneOf(use({ upright: 0 }), [60, 20, 3]).size[2]).toBeCloseTo(20);
  });

  it("leaves an object in other light where it is", () => {
    expect(sceneOf(use({ light: 15 }), [60, 20, 3])).toMatchObject({
      size: [60, 20, 3],
      object: 0,
      turn: null,
    });
  });
});
