// @vitest-environment happy-dom
import { QueryClient, QueryClientProvider, useQuery } from "@tanstack/react-query";
import { render } from "@testing-library/react";
import { afterEach, expect, test, vi } from "vitest";
import { fetchMeshAhead, meshQuery } from "./mesh-query";

afterEach(() => vi.unstubAllGlobals());

function Seen({ name }: { name: string }) {
  useQuery(meshQuery(name));
  return null;
}

test("a mesh is asked for ahead only while one is looked at, and once", async () => {
  const asked: string[] = [];
  vi.stubGlobal("fetch", async (path: string) => {
    asked.push(path);
    return new Response(new ArrayBuffer(0), { status: 503 });
  });
  const cache = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  fetchMeshAhead(cache, "a");
  expect(asked).toEqual([]);
  render(
    <QueryClientProvider client={cache}>
      <Seen name="a" />
    </QueryClientProvider>,
  );
  expect(asked).toEqual(["/api/meshes/a"]);
  fetchMeshAhead(cache, "b");
  fetchMeshAhead(cache, "b");
  fetchMeshAhead(cache, undefined);
  expect(asked).toEqual(["/api/meshes/a", "/api/meshes/b"]);
});
