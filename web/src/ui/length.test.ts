import { describe, expect, it } from "vitest";
import { areaIn, heightOf, layersTo, readLength, shown, snapped, stepped, stepsOf, withUnit } from "./length";

describe("lengths", () => {
  it("shows what a maker needs and no more", () => {
    expect(shown(15, "mm")).toBe("15");
    expect(shown(15, "mm", 1)).toBe("15.0");
    expect(shown(12.256, "mm")).toBe("12.26");
    expect(withUnit(25.4, "in")).toBe("1 in");
    expect(withUnit(1.5875, "in")).toBe("0.063 in");
  });
  it("reads lengths with units", () => {
    const read = (text: string) => [readLength(text, "mm"), readLength(text, "in")];
    expect(read("220")).toEqual([220, 220 * 25.4]);
    expect(read("5.5in")).toEqual([5.5 * 25.4, 5.5 * 25.4]);
    expect(read('1 1/2"')).toEqual([1.5 * 25.4, 1.5 * 25.4]);
    expect(read("2,5 cm")).toEqual([25, 25]);
    for (const none of ["", "mm", "5 ft", "1/0", "a lot", "1,2,3"]) expect(readLength(none, "mm")).toBe(null);
    expect([areaIn(645.16, "in"), areaIn(645.16, "mm"), areaIn(9.1, "mm")]).toEqual([
      "1.00 in²",
      "6.5 cm²",
      "9.1 mm²",
    ]);
  });
  it("steps without dust", () => {
    expect(stepped(0.1, 0.1, 2)).toBe(0.3);
    expect(stepped(15, 0.2, -10)).toBe(13);
  });
  it("snaps to printed layers, at least one", () => {
    const even = { layer: 0.2, first_layer: 0.2 };
    expect([12.25, 12.31, -3].map((mm) => snapped(mm, even))).toEqual([12.2, 12.4, 0.2]);
    const fine = { layer: 0.12, first_layer: 0.2 };
    expect([15, 0.05, 0.27].map((mm) => snapped(mm, fine))).toEqual([14.96, 0.2, 0.32]);
  });
  it("counts the layers that print: half a layer more is none", () => {
    const even = { layer: 0.2, first_layer: 0.2 };
    expect([4, 4.4, 4.5, 4.52, 12, 0.05].map((mm) => layersTo(mm, even))).toEqual([20, 22, 22, 23, 60, 0]);
    // A first layer of 0.3 mm and 73 more are 14.9 mm; the half above is none.
    const thick = { layer: 0.2, first_layer: 0.3 };
    expect([15, 0.3, 0.15, 0.16, 4].map((mm) => layersTo(mm, thick))).toEqual([74, 1, 0, 1, 19]);
    expect([0, 1, 74].map((n) => Number(heightOf(n, thick).toFixed(6)))).toEqual([0, 0.3, 14.9]);
  });
  it("reads the arrow keys", () => {
    const key = (key: string, shiftKey = false, altKey = false) => stepsOf({ key, shiftKey, altKey });
    expect([key("ArrowUp"), key("ArrowDown", true), key("ArrowUp", false, true), key("a")]).toEqual([
      1, -10, 0.1, 0,
    ]);
  });
});
