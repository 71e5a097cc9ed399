// @vitest-environment happy-dom
import { act, renderHook } from "@testing-library/react";
import { expect, test } from "vitest";
import type { Bench } from "../../../api/bench";
import type { DrawnLine } from "../../../api/generated/DrawnLine";
import type { Edit } from "../../../api/generated/Edit";
import { useSaves } from "./saves";

const line = (x: number): DrawnLine[] => [
  { nodes: [{ at: [x, 0], before: null, after: null }], is_closed: true },
];

/** A bench whose saves end when they are told to. */
function slowBench() {
  const commits: { edits: Edit[]; end: (version: number) => void }[] = [];
  const design = { version: 1, document: { changes: [] as { id: number }[] } };
  const bench = {
    design,
    preview: () => undefined,
    commit: (edits: Edit[]) =>
      new Promise<number>((done) => {
        commits.push({ edits, end: done });
      }),
  };
  return { commits, design, bench: bench as unknown as Bench };
}

test("lines that come while others are being saved go into the entry that these made", async () => {
  const { commits, design, bench } = slowBench();
  const edits = (lines: DrawnLine[]): Edit => {
    const change = { do: "nodes" as const, on: [], lines, use: "edge" as const, seen: null };
    const [own] = design.document.changes;
    return own ? { kind: "set-change", id: own.id, change } : { kind: "add-change", change };
  };
  let added: ReadonlySet<number> | null = null;
  const { result, rerender } = renderHook(
    (b: Bench) =>
      useSaves({
        bench: b,
        editOf: edits,
        onAdded: (before) => {
          added = before;
        },
      }),
    { initialProps: bench },
  );
  act(() => result.current.save(line(1)));
  act(() => result.current.save(line(2)));
  act(() => result.current.save(line(3)));
  expect(commits.map((c) => c.edits[0]?.kind)).toEqual(["add-change"]);
  expect(result.current.live).toEqual(line(3));
  // The save has ended, but the page has not yet heard of the new design.
  await act(async () => commits[0]?.end(2));
  expect(commits).toHaveLength(1);
  design.version = 2;
  design.document.changes.push({ id: 7 });
  rerender({ ...bench });
  expect(commits.map((c) => c.edits[0]?.kind)).toEqual(["add-change", "set-change"]);
  expect(commits[1]?.edits[0]).toMatchObject({ id: 7, change: { lines: line(3) } });
  expect([...(added ?? [0])]).toEqual([]);
  await act(async () => commits[1]?.end(3));
  design.version = 3;
  rerender({ ...bench });
  expect(result.current.live).toBeNull();
});
