import { expect, it } from "vitest";
import { useInterface } from "./interface";
import { useNotices } from "./notices";

it("starts at night where the system does, and remembers what the maker chose", () => {
  expect(useInterface.getState().isDark).toBe(true);
  useInterface.getState().toggleDark();
  expect(useInterface.getState().isDark).toBe(false);
  expect(localStorage.getItem("kachel-dark")).toBe("no");
});

it("flips between what is cut and the tool", () => {
  const sides = [0, 1, 2].map(() => {
    const side = useInterface.getState().side;
    useInterface.getState().flip();
    return side;
  });
  expect(sides).toEqual(["cookie", "tool", "cookie"]);
});

it("keeps the last three notices and forgets dismissed ones", () => {
  for (const text of ["a", "b", "c", "d"]) {
    useNotices.getState().say({ text, hint: "", isBad: false, action: null });
  }
  expect(useNotices.getState().notices.map((n) => n.text)).toEqual(["b", "c", "d"]);
  useNotices.getState().dismiss(useNotices.getState().notices[1]?.id ?? -1);
  expect(useNotices.getState().notices.map((n) => n.text)).toEqual(["b", "d"]);
});
