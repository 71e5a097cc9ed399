import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { useAway } from "../state/away";
import { ApiProblem } from "./client";
import { whenThere } from "./waiting";

const away = new ApiProblem({
  title: "",
  status: 0,
  detail: "",
  code: "unreachable",
  value: null,
  limit: null,
  hint: "",
});

let answers = false;

beforeEach(() => {
  vi.useFakeTimers();
  answers = false;
  vi.stubGlobal("fetch", () =>
    answers ? Promise.resolve(new Response()) : Promise.reject(new Error("away")),
  );
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

/** A design on a server that may be away; `lost` lets it save a change whose answer never comes. */
function server() {
  const state = { version: 1, width: 10 };
  return {
    state,
    set: (width: number) => (now: { version: number }) => {
      if (!answers) return Promise.reject(away);
      if (now.version !== state.version) return Promise.reject(new Error("stale"));
      state.width = width;
      state.version += 1;
      return Promise.resolve({ ...state });
    },
    look: () => (answers ? Promise.resolve({ ...state }) : Promise.reject(away)),
  };
}

test("a change waits while the server is away and is made when it is back", async () => {
  const s = server();
  const done = whenThere({ version: 1 }, s.set(20), s.look, false);
  await vi.advanceTimersByTimeAsync(3500);
  expect(useAway.getState()).toMatchObject({ isAway: true });
  expect(s.state.width).toBe(10);
  answers = true;
  await vi.advanceTimersByTimeAsync(1500);
  expect((await done).version).toBe(2);
  expect(s.state.width).toBe(20);
  expect(useAway.getState()).toMatchObject({ isAway: false });
});

test("where something changed meanwhile, only what does no harm twice is made again", async () => {
  const s = server();
  const careful = whenThere({ version: 1 }, s.set(20), s.look, false);
  const refused = expect(careful).rejects.toMatchObject({ problem: { code: "stale" } });
  const repeated = whenThere({ version: 1 }, s.set(30), s.look, true);
  await vi.advanceTimersByTimeAsync(100);
  s.state.version = 2;
  answers = true;
  await vi.advanceTimersByTimeAsync(1500);
  await refused;
  expect((await repeated).version).toBe(3);
  expect(s.state.width).toBe(30);
});

test("a refusal is no absence", async () => {
  answers = true;
  await expect(
    whenThere(
      { version: 1 },
      () => Promise.reject(new Error("refused")),
      () => Promise.reject(away),
      true,
    ),
  ).rejects.toThrow("refused");
});
