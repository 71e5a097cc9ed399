import { expect, test } from "vitest";
import type { MmPoint } from "./generated/MmPoint";
import type { PxPoint } from "./generated/PxPoint";

// The compiler is the test: without its errors `@ts-expect-error` is one.
test("pixels and millimetres are no types of each other", () => {
  const px: PxPoint = [3, 4];
  const mm: MmPoint = [3, 4];
  // @ts-expect-error pixels where millimetres are asked for
  const asMm: MmPoint = px;
  // @ts-expect-error millimetres where pixels are asked for
  const asPx: PxPoint = mm;
  expect([asMm, asPx]).toEqual([px, mm]);
});
