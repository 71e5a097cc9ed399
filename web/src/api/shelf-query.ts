import { queryOptions } from "@tanstack/react-query";
import { api } from "./client";

/** The shelf's designs. */
export const shelfQuery = queryOptions({ queryKey: ["shelf"], queryFn: () => api.shelf() });

export const SHELF = shelfQuery.queryKey;
