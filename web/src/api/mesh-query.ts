import { type QueryClient, queryOptions } from "@tanstack/react-query";
import { api } from "./client";
import { readMesh } from "./mesh";

/** A solid's mesh, fetched once. */
export const meshQuery = (key: string) =>
  queryOptions({
    queryKey: ["mesh", key],
    queryFn: async () => readMesh(await api.mesh(key)),
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 60_000,
    retry: 1,
  });

/** Whether a mesh is looked at. */
export function isMeshSeen(cache: QueryClient): boolean {
  return cache.getQueryCache().findAll({ queryKey: ["mesh"], type: "active" }).length > 0;
}

/** Asks for the mesh of a solid that is about to be seen: it is on its way while the page is drawn anew. Where no mesh is looked at, nothing
 * is asked for. */
export function fetchMeshAhead(cache: QueryClient, key: string | undefined) {
  if (key !== undefined && isMeshSeen(cache)) void cache.prefetchQuery(meshQuery(key));
}
