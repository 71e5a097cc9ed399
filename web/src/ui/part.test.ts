import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { useAway } from "../state/away";
import { part } from "./part";

let answers = false;

beforeEach(() => {
  vi.useFakeTimers();
  answers = true;
  vi.stubGlobal("fetch", () =>
    answers ? Promise.resolve(new Response()) : Promise.reject(new Error("away")),
  );
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

const Station = () => null;

test("a part is fetched once, whoever wants it", async () => {
  const load = vi.fn(async () => Station);
  const { come, state } = part(load);
  expect(state.getState()).toEqual({ Shown: null, isMissing: false });
  await Promise.all([come(), come()]);
  await come();
  expect(load).toHaveBeenCalledTimes(1);
  expect(state.getState().Shown).toBe(Station);
});

test("one that does not come as the server is away comes when it is back", async () => {
  answers = false;
  const load = vi.fn(async () => {
    if (!answers) throw new Error("away");
    return Station;
  });
  const { come, state } = part(load);
  await come();
  await vi.advanceTimersByTimeAsync(3500);
  expect(state.getState()).toEqual({ Shown: null, isMissing: false });
  expect(useAway.getState().isAway).toBe(true);
  answers = true;
  await vi.advanceTimersByTimeAsync(1500);
  expect(state.getState().Shown).toBe(Station);
  expect(useAway.getState().isAway).toBe(false);
});

test("one that the server has no longer is missing, and is asked for again when it is wanted again", async () => {
  let isGone = true;
  const { come, state } = part(async () => {
    if (isGone) throw new Error("404");
    return Station;
  });
  await come();
  expect(state.getState()).toEqual({ Shown: null, isMissing: true });
  isGone = false;
  await come();
  expect(state.getState()).toEqual({ Shown: Station, isMissing: false });
});
