// @vitest-environment happy-dom
import { QueryClient, QueryClientProvider, useQuery } from "@tanstack/react-query";
import { act, renderHook } from "@testing-library/react";
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import type { Bench } from "../../api/bench";
import { meshQuery } from "../../api/mesh-query";
import { useInterface } from "../../state/interface";
import { useAfterSolid } from "./use-after-solid";

beforeEach(() => {
  vi.useFakeTimers();
  vi.stubGlobal("fetch", () => new Promise(() => undefined));
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
  useInterface.setState({ drawn: null });
});

const bench = (recipe: string, key: string | null) =>
  ({ result: { recipe, solid: key === null ? null : { key } } }) as unknown as Bench;

/** What stands beside the solid, of benches that follow each other. */
function beside(first: Bench, hasSolid: boolean) {
  const cache = new QueryClient();
  const hook = renderHook(
    (p: { bench: Bench }) => {
      useQuery({ ...meshQuery("x"), enabled: hasSolid });
      return useAfterSolid(p.bench);
    },
    {
      initialProps: { bench: first },
      wrapper: ({ children }) => <QueryClientProvider client={cache}>{children}</QueryClientProvider>,
    },
  );
  return {
    now: () => hook.result.current,
    follow: (next: Bench) => hook.rerender({ bench: next }),
  };
}

const [cutter, taller, coaster] = [bench("cutter", "a"), bench("cutter", "b"), bench("coaster", "c")];

test("of the same recipe it is the bench itself", () => {
  const { now, follow } = beside(cutter, true);
  follow(taller);
  expect(now()).toBe(taller);
});

test("another recipe waits for its solid, and for no other", () => {
  const { now, follow } = beside(cutter, true);
  follow(coaster);
  expect(now()).toBe(cutter);
  act(() => useInterface.setState({ drawn: "b" }));
  expect(now()).toBe(cutter);
  act(() => useInterface.setState({ drawn: "c" }));
  expect(now()).toBe(coaster);
});

test("a solid that does not come is not waited for long", () => {
  const { now, follow } = beside(cutter, true);
  follow(coaster);
  act(() => vi.advanceTimersByTime(200));
  expect(now()).toBe(cutter);
  act(() => vi.advanceTimersByTime(100));
  expect(now()).toBe(coaster);
});

test("where there is no solid, or none is looked at, nothing waits", () => {
  const seen = beside(cutter, true);
  const empty = bench("plaque", null);
  seen.follow(empty);
  expect(seen.now()).toBe(empty);
  const alone = beside(cutter, false);
  alone.follow(coaster);
  expect(alone.now()).toBe(coaster);
});
