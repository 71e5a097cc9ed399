import { beforeAll, describe, expect, it, vi } from "vitest";
import type { TierView } from "../../api/generated/TierView";

beforeAll(() => vi.stubGlobal("localStorage", { getItem: () => null, setItem: () => undefined }));

const tier = (key: string, bottom: number, top: number, isCut = false): TierView => ({
  key,
  role: "own",
  name: key,
  path: "",
  bottom,
  top,
  is_cut: isCut,
  filament: "celadon",
  colour: [0, 0, 0],
  handles: [],
  finish: null,
});

describe("heights", () => {
  it("above count from the next lower upper side of another tier", async () => {
    const { below } = await import("./heights");
    const flange = tier("flange", 0, 2);
    const wall = tier("wall", 0, 15);
    const stamp = tier("stamp", 0, 12);
    const room = tier("room", 0, 11, true);
    const all = [flange, wall, stamp, room];
    expect(below(all, flange, flange.top)).toBe(0);
    expect(below(all, stamp, stamp.top)).toBe(2);
    expect(below(all, wall, wall.top)).toBe(12);
    expect(below(all, wall, wall.bottom)).toBe(0);
  });

  it("say what prints where it is not what was typed", async () => {
    const { printed } = await import("./heights");
    expect(printed(12, 60, 60 * 0.2, "mm")).toBe("60 layers");
    expect(printed(12.25, 61, 61 * 0.2, "mm")).toBe("61 layers, 12.2 mm");
    expect(printed(12.25, 61, 61 * 0.2, "in")).toBe("61 layers, 0.48 in");
  });
});
