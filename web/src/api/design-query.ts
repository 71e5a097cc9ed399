import { queryOptions } from "@tanstack/react-query";
import { api } from "./client";

export const designKey = (id: string) => ["design", id];

/** The design with this name. */
export const designQuery = (id: string) =>
  queryOptions({ queryKey: designKey(id), queryFn: () => api.design(id), retry: false });
