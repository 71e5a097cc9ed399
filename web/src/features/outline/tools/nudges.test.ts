import { describe, expect, it } from "vitest";
import type { Entry } from "../../../api/generated/Entry";
import { nudgedEntry } from "./nudges";
import { placed } from "./tool";

const entry = (id: number): Entry => ({ id, is_on: true, change: placed([], { by: [1, 0] }) });

describe("nudges", () => {
  it("go into the entry that they made, as long as it is the last one", () => {
    const moved = { before: 1, total: [1, 0] as [number, number] };
    expect(nudgedEntry([entry(1), entry(7)], moved)?.id).toBe(7);
    // Not saved yet, followed by something else, or taken back.
    expect(nudgedEntry([entry(1)], moved)).toBeNull();
    expect(nudgedEntry([entry(1), entry(7), entry(8)], moved)).toBeNull();
    expect(nudgedEntry([], moved)).toBeNull();
    expect(nudgedEntry([entry(1), entry(7)], null)).toBeNull();
    const other: Entry = { id: 7, is_on: true, change: { do: "join", on: [] } };
    expect(nudgedEntry([entry(1), other], moved)).toBeNull();
  });
});
