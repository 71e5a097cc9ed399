import { describe, expect, it } from "vitest";
import type { MeasureView } from "../../api/generated/MeasureView";
import type { SetMember } from "../../api/generated/SetMember";
import { differsIn, mostOften, usualOf } from "./usual";

const measure = (name: string, value: number, options: MeasureView["options"] = []): MeasureView => ({
  name,
  group: "Body",
  label: name,
  meaning: "",
  picture: "high",
  is_length: true,
  options,
  value,
  default: 3,
  min: 0,
  max: 50,
  step: 0.2,
  layers: null,
  prints: null,
});
const FORMS = [
  { name: "round", label: "Round" },
  { name: "square", label: "Square" },
];
const member = (thickness: number, form = 0, filament = "celadon"): SetMember => ({
  version: 1,
  unit: "mm",
  recipe: "key-tag",
  measures: [measure("thickness", thickness), measure("form", form, FORMS)],
  tiers: [{ key: "body", name: "Body", filament }],
  made: null,
  problem: null,
});

describe("what a set has in common", () => {
  it("is what comes most often, of equals the first", () => {
    expect(mostOften([3, 4, 4])).toBe(4);
    expect(mostOften([3, 4])).toBe(3);
    expect(mostOften([])).toBeUndefined();
    expect(usualOf([])).toBeUndefined();
    const usual = usualOf([member(4), member(3, 1), member(4, 1), { ...member(9), recipe: "coaster" }]);
    expect(usual?.recipe).toBe("key-tag");
    expect(usual?.measures.map((m) => m.value)).toEqual([4, 1]);
  });

  it("is kept by those that do not differ; the others say in what, and how they come back", () => {
    const members = [
      member(3),
      member(3),
      member(4, 1, "cobalt"),
      { ...member(3), recipe: "coaster" as const },
    ];
    const usual = usualOf(members);
    if (!usual) throw new Error("there are some");
    expect(differsIn(members[0] as SetMember, usual)).toEqual([]);
    const odd = differsIn(members[2] as SetMember, usual);
    expect(odd.map((d) => [d.what, d.name])).toEqual([
      ["measure", "thickness"],
      ["measure", "form"],
      ["filament", "body"],
    ]);
    expect(odd[1]?.edits).toEqual([{ kind: "set-measure", name: "form", value: "round" }]);
    expect(differsIn(members[3] as SetMember, usual)[0]?.what).toBe("recipe");
    // A filament that differs is no other thickness.
    expect(differsIn(member(3, 0, "cobalt"), usual).map((d) => d.name)).toEqual(["body"]);
  });
});
