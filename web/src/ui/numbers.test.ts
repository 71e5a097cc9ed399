import { expect, test } from "vitest";
import { decimalOf, local, said } from "./numbers";

test("the decimal sign is the language's", () => {
  expect(decimalOf("en-GB")).toBe(".");
  expect(decimalOf("de-DE")).toBe(",");
  expect(decimalOf("fr")).toBe(",");
  // Digits of another script are not read by the fields: the point stays.
  expect(decimalOf("ar-EG")).toBe(".");
});

test("numbers in sentences are written so, and nothing else is", () => {
  expect(local("12.5", ",")).toBe("12,5");
  expect(said("0.8 mm thin, 1.25 × 3 mm.", ",")).toBe("0,8 mm thin, 1,25 × 3 mm.");
  expect(said("It ends at 2.5.", ",")).toBe("It ends at 2,5.");
  expect(said("version 1.2.3 of a1.5, logo2.5x", ",")).toBe("version 1.2.3 of a1.5, logo2.5x");
  expect(said("0.8 mm", ".")).toBe("0.8 mm");
});
