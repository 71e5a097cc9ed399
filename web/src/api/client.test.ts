import { afterEach, expect, it, vi } from "vitest";
import { useActivity } from "../state/activity";
import { ApiProblem, api, exportUrl, thumbnailUrl } from "./client";

const realFetch = globalThis.fetch;
afterEach(() => vi.stubGlobal("fetch", realFetch));

function answer(status: number, body: unknown, type = "application/json") {
  const response = () => new Response(JSON.stringify(body), { status, headers: { "content-type": type } });
  const fetch = vi.fn((_path: string, _init?: RequestInit) => Promise.resolve(response()));
  vi.stubGlobal("fetch", fetch);
  return fetch;
}

it("sends a change with the version it changes and a name for the computation", async () => {
  const fetch = answer(200, { id: "a" });
  await api.edit("a", 7, [{ kind: "rename", name: "B" }]);
  const [path, init] = fetch.mock.calls[0] ?? [];
  const headers = new Headers(init?.headers);
  expect(path).toBe("/api/designs/a/edits");
  expect(headers.get("if-match")).toBe('"7"');
  expect(headers.get("x-kachel-job")).toMatch(/^\d+-\d+$/);
  expect(init?.body).toBe('{"edits":[{"kind":"rename","name":"B"}]}');
});

it("throws the server's problem document", async () => {
  answer(412, { code: "stale", detail: "changed", hint: "look again" }, "application/problem+json");
  const refused = await api.undo("a", 1).catch((e: unknown) => e);
  expect(refused).toBeInstanceOf(ApiProblem);
  expect((refused as ApiProblem).problem.code).toBe("stale");
});

it("makes a problem of an answer that is none, and of no answer", async () => {
  answer(502, "bad gateway", "text/html");
  await expect(api.shelf()).rejects.toThrow("502");
  vi.stubGlobal("fetch", () => Promise.reject(new TypeError("network")));
  await expect(api.shelf()).rejects.toMatchObject({ problem: { code: "unreachable" } });
});

it("can be stopped, and tells the server", async () => {
  vi.useFakeTimers();
  const asked: string[] = [];
  vi.stubGlobal("fetch", (path: string, init?: RequestInit) => {
    asked.push(`${init?.method ?? "GET"} ${path.replace(/[\d-]+$/, "N")}`);
    if (path.startsWith("/api/jobs/")) return Promise.resolve(new Response());
    return new Promise((_, reject) =>
      init?.signal?.addEventListener("abort", () => reject(new Error("aborted"))),
    );
  });
  const asking = api.design("a").catch((e: unknown) => e);
  vi.advanceTimersByTime(300);
  useActivity.getState().slow?.stop();
  expect(((await asking) as ApiProblem).problem.code).toBe("stopped");
  expect(asked).toEqual(["GET /api/designs/a", "DELETE /api/jobs/N"]);
  expect(useActivity.getState().slow).toBeNull();
  vi.useRealTimers();
});

it("knows where files are", () => {
  expect(exportUrl("a", "3mf")).toBe("/api/designs/a/export/3mf");
  expect(thumbnailUrl("a", 3)).toBe("/api/designs/a/thumbnail.svg?v=3");
});

it("takes what was asked for ahead once, and asks where it was not answered", async () => {
  const asked: string[] = [];
  vi.stubGlobal("fetch", async (path: string) => {
    asked.push(path);
    return Response.json([]);
  });
  const ahead = (answer: Response | null) =>
    vi.stubGlobal("kachelAhead", { path: "/api/designs", answer: Promise.resolve(answer) });
  ahead(Response.json([{ id: "a" }]));
  await api.samples();
  expect(await api.shelf()).toEqual([{ id: "a" }]);
  expect(await api.shelf()).toEqual([]);
  expect(asked).toEqual(["/api/samples", "/api/designs"]);
  ahead(null);
  expect(await api.shelf()).toEqual([]);
  expect(asked).toHaveLength(3);
});
