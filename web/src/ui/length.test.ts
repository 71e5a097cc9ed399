import { describe, expect, it } from "vitest";
import { shown, snapped, stepped, stepsOf, withUnit } from "./length";

describe("lengths", () => {
  it("shows what a maker needs and no more", () => {
    expect(shown(15, "mm")).toBe("15");
    expect(shown(15, "mm", 1)).toBe("15.0");
    expect(shown(12.256, "mm")).toBe("12.26");
    expect(withUnit(25.4, "in")).toBe("1 in");
    expect(withUnit(1.5875, "in")).toBe("0.063 in");
  });
  it("steps without dust", () => {
    expect(stepped(0.1, 0.1, 2)).toBe(0.3);
    expect(stepped(15, 0.2, -10)).toBe(13);
  });
  it("snaps to printed layers, at least one", () => {
    expect(snapped(12.25, 0.2)).toBe(12.2);
    expect(snapped(-3, 0.2)).toBe(0.2);
  });
  it("reads the arrow keys", () => {
    const key = (key: string, shiftKey = false, altKey = false) => stepsOf({ key, shiftKey, altKey });
    expect([key("ArrowUp"), key("ArrowDown", true), key("ArrowUp", false, true), key("a")]).toEqual([
      1, -10, 0.1, 0,
    ]);
  });
});
