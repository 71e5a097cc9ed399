import { describe, expect, it } from "vitest";
import type { DesignView } from "./generated/DesignView";
import type { Edit } from "./generated/Edit";
import { rebased } from "./rebase";

const text = { words: "Name", face: "slab", size: 8, spacing: 0, leading: 1.6, align: "middle", arc: 0 };
const change = { do: "text", text, at: [1, 2], degrees: 0, use: "detail" };
const design = (now: object) =>
  ({ document: { changes: [{ id: 3, is_on: true, change: now }] } }) as unknown as DesignView;
const edit = (now: object) => ({ kind: "set-change", id: 3, change: now }) as unknown as Edit;

describe("an entry that changed while another change was being saved", () => {
  it("keeps both", () => {
    const base = design(change);
    const saved = design({ ...change, text: { ...text, arc: 30 }, degrees: 15 });
    const mine = edit({ ...change, text: { ...text, words: "Fjord" } });
    expect(rebased(mine, base, saved)).toEqual(
      edit({ ...change, text: { ...text, words: "Fjord", arc: 30 }, degrees: 15 }),
    );
  });

  it("is sent as it is where nothing else was saved, or the entry is gone", () => {
    const base = design(change);
    const mine = edit({ ...change, at: [5, 6] });
    expect(rebased(mine, base, base)).toBe(mine);
    expect(rebased(mine, base, { document: { changes: [] } } as unknown as DesignView)).toEqual(mine);
  });
});

it("bars and pins that were added while others were being saved stay", () => {
  const [a, b, c] = [1, 2, 3].map((x) => ({ from: [x, 0], to: [x, 9] }));
  const has = (bars: object[]) => ({ document: { pins: bars }, result: { bars } }) as unknown as DesignView;
  for (const kind of ["set-bars", "set-pins"]) {
    const name = kind === "set-bars" ? "bars" : "pins";
    const set = (all: object[]) => ({ kind, [name]: all }) as unknown as Edit;
    expect(rebased(set([a, c] as object[]), has([a] as object[]), has([a, b] as object[]))).toEqual(
      set([a, b, c] as object[]),
    );
    // Taken away by the other edit, and by this one.
    expect(rebased(set([a, c] as object[]), has([a] as object[]), has([]))).toEqual(set([c] as object[]));
    expect(rebased(set([]), has([a] as object[]), has([a, b] as object[]))).toEqual(set([b] as object[]));
    // Moved by the other edit: taken away by this one all the same, or left alone.
    expect(rebased(set([c] as object[]), has([a, c] as object[]), has([b, c] as object[]))).toEqual(
      set([c] as object[]),
    );
    expect(rebased(set([a] as object[]), has([a, c] as object[]), has([b, c] as object[]))).toEqual(
      set([b] as object[]),
    );
  }
});

it("a guide that was added while another one was being saved stays, and a moved one moves", () => {
  const [level, upright, moved] = [
    { is_upright: false, at: 10 },
    { is_upright: true, at: 90 },
    { is_upright: false, at: 12 },
  ];
  const has = (guides: object[]) => ({ document: { guides } }) as unknown as DesignView;
  const set = (guides: object[]) => ({ kind: "set-guides", guides }) as unknown as Edit;
  expect(rebased(set([upright]), has([]), has([level]))).toEqual(set([level, upright]));
  expect(rebased(set([moved]), has([level]), has([level, upright]))).toEqual(set([upright, moved]));
  expect(rebased(set([]), has([level]), has([level, upright]))).toEqual(set([upright]));
});
