import { expect, it } from "vitest";
import { textsNow, whole } from "./texts";

it("fills in the texts of an answer, also those that came with an earlier one", () => {
  const none = textsNow();
  const first = whole<object>(
    { texts: { a: "M0 0", b: "M1 1" }, answer: { paths: [{ $text: "a" }, { $text: "b" }] } },
    none,
  );
  expect(first).toEqual({ paths: ["M0 0", "M1 1"] });
  const had = textsNow();
  expect([...had.keys()].sort()).toEqual(["a", "b"]);
  // Others may push it out of what is kept before the answer comes: what was here when the request went out counts.
  const many = Object.fromEntries(Array.from({ length: 400 }, (_, k) => [`t${k}`, `L${k}`]));
  whole({ texts: many, answer: Object.keys(many).map((name) => ({ $text: name })) }, textsNow());
  expect(textsNow().size).toBe(300);
  expect(textsNow().has("a")).toBe(false);
  expect(whole({ texts: {}, answer: { path: { $text: "a" }, n: [1, null] } }, had)).toEqual({
    path: "M0 0",
    n: [1, null],
  });
  expect(() => whole({ texts: {}, answer: { $text: "a" } }, new Map())).toThrow();
});
