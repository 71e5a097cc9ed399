// @vitest-environment happy-dom
import { act, renderHook } from "@testing-library/react";
import { expect, test } from "vitest";
import { useInTurn } from "./in-turn";

test("one that waits for none is sent at once, the others when those before them are done", async () => {
  const { result } = renderHook(useInTurn);
  const sent: string[] = [];
  const ends: ((done: string) => void)[] = [];
  const change = (name: string) => () => {
    sent.push(name);
    return new Promise<string>((done) => ends.push(done));
  };
  let first: Promise<string> = Promise.resolve("");
  act(() => {
    first = result.current.inTurn(change("a"));
    void result.current.inTurn(change("b"));
    expect(sent).toEqual(["a"]);
  });
  expect(result.current.isSaving).toBe(true);
  await act(async () => ends[0]?.("done"));
  expect(await first).toBe("done");
  expect(sent).toEqual(["a", "b"]);
  await act(async () => ends[1]?.("done"));
  expect(result.current.isSaving).toBe(false);
  act(() => void result.current.inTurn(change("c")));
  expect(sent).toEqual(["a", "b", "c"]);
});

test("a refused one holds up none of the others", async () => {
  const { result } = renderHook(useInTurn);
  let refused = "";
  await act(async () => {
    const bad = result.current.inTurn(() => Promise.reject(new Error("no")));
    const good = result.current.inTurn(() => Promise.resolve("yes"));
    await bad.catch((e: Error) => {
      refused = e.message;
    });
    expect(await good).toBe("yes");
  });
  expect(refused).toBe("no");
  expect(result.current.isSaving).toBe(false);
});
