// @vitest-environment happy-dom
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { renderHook, waitFor } from "@testing-library/react";
import type { ReactNode } from "react";
import { afterEach, expect, test, vi } from "vitest";
import { api } from "../../api/client";
import type { SetMember } from "../../api/generated/SetMember";
import type { ShelfItem } from "../../api/generated/ShelfItem";
import { MEMBERS } from "../../api/members";
import { useSet } from "./use-set";

vi.mock("../../api/use-others", () => ({ versionOf: () => Promise.resolve({ version: 1 }) }));

const item = (id: string) => ({ id, name: id, labels: ["Gate"] }) as unknown as ShelfItem;
const member = (made: unknown) =>
  ({ recipe: "key-tag", measures: [], tiers: [], made }) as unknown as SetMember;
const thickness = (value: number) =>
  ({
    recipe: "key-tag",
    measures: [{ name: "thickness", value, options: [] }],
    tiers: [],
    made: null,
  }) as unknown as SetMember;

/** A set on the page. */
function shown(shelf = ["ant", "bee", "cat"].map(item)) {
  vi.spyOn(api, "shelf").mockImplementation(() => Promise.resolve([...shelf]));
  const cache = new QueryClient();
  const wrapper = ({ children }: { children: ReactNode }) => (
    <QueryClientProvider client={cache}>{children}</QueryClientProvider>
  );
  return { cache, ...renderHook(() => useSet("Gate", ""), { wrapper }) };
}

afterEach(() => vi.restoreAllMocks());

test("what is still being made is put on a bed with the rest", async () => {
  const waiting: ((m: SetMember) => void)[] = [];
  const asked = vi.spyOn(api, "member").mockImplementation((id) => {
    if (id === "ant") return Promise.resolve(member({ seconds: 60, edits: [] }));
    if (id === "cat") return Promise.resolve(member(null));
    return new Promise((done) => waiting.push(done));
  });
  const { result } = shown();
  await waitFor(() => expect(result.current.members?.[0]?.is?.made).toBeTruthy());
  expect(result.current.members?.[1]?.is).toBeUndefined();
  let all: string[] | null = null;
  const done = result.current.objects().then((ids) => {
    all = ids;
  });
  await new Promise((rest) => setTimeout(rest, 20));
  expect(all).toBeNull();
  for (const known of waiting) known(member({ seconds: 30, edits: [] }));
  await done;
  expect(all).toEqual(["ant", "bee"]);
  expect(asked).toHaveBeenCalledTimes(3);
});

test("what is still being made is changed with the rest, changes one after the other", async () => {
  const waiting: ((m: SetMember) => void)[] = [];
  const held = new Map([
    ["ant", 3],
    ["bee", 2.4],
    ["cat", 3],
  ]);
  let isSlow = true;
  vi.spyOn(api, "member").mockImplementation((id) =>
    isSlow && id !== "bee"
      ? new Promise((done) => waiting.push(done))
      : Promise.resolve(thickness(held.get(id) ?? 0)),
  );
  const changed: string[] = [];
  vi.spyOn(api, "edit").mockImplementation((id, _, [edit]) => {
    if (edit?.kind === "set-measure") held.set(id, Number(edit.value));
    changed.push(id);
    return Promise.resolve({} as never);
  });
  const { result, cache } = shown();
  // Only the one that has its own is known yet.
  await waitFor(() => expect(result.current.members?.[1]?.is).toBeTruthy());
  const set = (value: string) =>
    result.current.change((m) =>
      m.differs.length === 0 ? [{ kind: "set-measure", name: "thickness", value }] : [],
    );
  const both = [set("4"), set("5")];
  await waitFor(() => expect(result.current.progress).toEqual({ done: 0, of: 3 }));
  expect(changed).toEqual([]);
  isSlow = false;
  for (const known of waiting) known(thickness(3));
  expect(await Promise.all(both)).toEqual([2, 2]);
  expect(changed).toEqual(["ant", "cat", "ant", "cat"]);
  expect(Object.fromEntries(held)).toEqual({ ant: 5, bee: 2.4, cat: 5 });
  expect(cache.isFetching({ queryKey: MEMBERS })).toBe(0);
});

test("a picture that is added before a change is changed with the rest", async () => {
  const shelf = ["ant", "bee"].map(item);
  vi.spyOn(api, "member").mockImplementation(() => Promise.resolve(thickness(3)));
  vi.spyOn(api, "upload").mockResolvedValue({ id: "dog", version: 1 } as never);
  vi.spyOn(api, "label").mockImplementation(() => {
    shelf.push(item("dog"));
    return Promise.resolve(undefined as never);
  });
  const changed: string[] = [];
  vi.spyOn(api, "edit").mockImplementation((id, _, [edit]) => {
    if (edit?.kind === "set-measure") changed.push(id);
    return Promise.resolve({ version: 2, result: { tiers: [] } } as never);
  });
  const { result } = shown(shelf);
  await waitFor(() => expect(result.current.members?.[1]?.is).toBeTruthy());
  const added = result.current.add([new File([""], "dog.svg")]);
  await result.current.change(() => [{ kind: "set-measure", name: "thickness", value: "4" }]);
  await added;
  expect(changed).toEqual(["ant", "bee", "dog"]);
  await waitFor(() => expect(result.current.members?.[2]?.is).toBeTruthy());
});
