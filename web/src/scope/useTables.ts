import { useQuery } from "@tanstack/react-query";
import { ask, type Schemas } from "../api/client";

/** All tables with their counters. */
export function useTables() {
  return useQuery({
    queryKey: ["tables"],
    queryFn: ({ signal }) => ask<Schemas["TableReply"][]>("/api/tables", { signal }),
    staleTime: 5_000,
  });
}

/** All products. */
export function useProducts() {
  return useQuery({
    queryKey: ["products"],
    queryFn: ({ signal }) => ask<Schemas["ProductReply"][]>("/api/products", { signal }),
    staleTime: 30_000,
  });
}
