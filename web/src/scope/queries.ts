import { queryOptions } from "@tanstack/react-query";
import { ask, type Schemas } from "../api/client";

/** All tables with their counters. */
export const TABLES = queryOptions({
  queryKey: ["tables"],
  queryFn: ({ signal }) => ask<Schemas["TableReply"][]>("/api/tables", { signal }),
  staleTime: 5_000,
});

/** All products. */
export const PRODUCTS = queryOptions({
  queryKey: ["products"],
  queryFn: ({ signal }) => ask<Schemas["ProductReply"][]>("/api/products", { signal }),
  staleTime: 30_000,
});

/**
 * The entries of a scope.
 *
 * @param address - the scope as its query string
 */
export function entriesOf(address: string) {
  return queryOptions({
    queryKey: ["scope", address],
    queryFn: ({ signal }) => ask<Schemas["ScopeReply"]>(`/api/scope?${address}`, { signal }),
    // Rows must not jump away while one works on them: the scope is read again only when asked for.
    staleTime: Infinity,
    gcTime: 0,
  });
}
