import { useQuery } from "@tanstack/react-query";
import { PRODUCTS, TABLES } from "./queries";

/** All tables with their counters. */
export function useTables() {
  return useQuery(TABLES);
}

/** All products. */
export function useProducts() {
  return useQuery(PRODUCTS);
}
