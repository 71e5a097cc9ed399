import { queryOptions } from "@tanstack/react-query";
import { api } from "../../api/client";
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
