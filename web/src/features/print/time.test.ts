import { expect, it } from "vitest";
import { clock } from "./time";

it("a time is told as people say it", () => {
  expect([0, 40.4, 59.4, 59.6, 90, 3569, 3570, 3900, 86_400].map(clock)).toEqual([
    "0 s",
    "40 s",
    "59 s",
    "1 min",
    "2 min",
    "59 min",
    "1 h 00 min",
    "1 h 05 min",
    "24 h 00 min",
  ]);
});
