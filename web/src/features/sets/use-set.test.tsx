// @vitest-environment happy-dom
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { renderHook, waitFor } from "@testing-library/react";
import type { ReactNode } from "react";
import { expect, test, vi } from "vitest";
import { api } from "../../api/client";
import type { SetMember } from "../../api/generated/SetMember";
import type { ShelfItem } from "../../api/generated/ShelfItem";
import { useSet } from "./use-set";

test("what is still being made is put on a bed with the rest", async () => {
  const item = (id: string) => ({ id, name: id, labels: ["Gate"] }) as unknown as ShelfItem;
  const member = (made: unknown) => ({ measures: [], made }) as unknown as SetMember;
  vi.spyOn(api, "shelf").mockResolvedValue(["ant", "bee", "cat"].map(item));
  const waiting: ((m: SetMember) => void)[] = [];
  const asked = vi.spyOn(api, "member").mockImplementation((id) => {
    if (id === "ant") return Promise.resolve(member({ seconds: 60, edits: [] }));
    if (id === "cat") return Promise.resolve(member(null));
    return new Promise((done) => waiting.push(done));
  });
  const cache = new QueryClient();
  const wrapper = ({ children }: { children: ReactNode }) => (
    <QueryClientProvider client={cache}>{children}</QueryClientProvider>
  );
  const { result } = renderHook(() => useSet("Gate", ""), { wrapper });
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
