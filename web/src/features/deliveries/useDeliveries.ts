import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useMemo } from "react";
import { ask, type Schemas } from "../../api/client";
import { atMostEvery, useLive } from "../../live/live";

export type Desk = Schemas["DeliveryDesk"];
export type Recipe = Schemas["Recipe"];
export type Settings = Schemas["RecipeSettings"];
export type Verdict = Schemas["LanguageVerdict"];

/** The first word of the key of everything that is delivered. */
export const DELIVERIES = "deliveries";

const GOING_MS = 400;

/** Every product with what waits. */
export function useDeliveries() {
  return useQuery({
    queryKey: [DELIVERIES],
    queryFn: ({ signal }) => ask<Schemas["ProductWaiting"][]>("/api/deliveries", { signal }),
    staleTime: 30_000,
  });
}

/** How a product stands; asked again and again while something is being delivered. */
export function useDesk(slug: string) {
  return useQuery({
    queryKey: [DELIVERIES, slug],
    queryFn: ({ signal }) => ask<Desk>(`/api/products/${encodeURIComponent(slug)}/delivery`, { signal }),
    refetchInterval: (query) => (going(query.state.data) ? GOING_MS : false),
  });
}

/** Whether a delivery is being made. */
export function going(desk: Desk | undefined): boolean {
  return desk?.product.run?.status === "going" || desk?.product.run?.status === "queued";
}

/** What was delivered, the last one first. */
export function useHistory(slug: string, last: number) {
  return useQuery({
    queryKey: [DELIVERIES, slug, "history", last],
    queryFn: ({ signal }) =>
      ask<Schemas["DeliveryReply"][]>(`/api/products/${encodeURIComponent(slug)}/deliveries`, { signal }),
  });
}

/** Asks again about what is delivered when texts change. */
export function useFollowing() {
  const queries = useQueryClient();
  useLive(
    useMemo(() => atMostEvery(2_000, () => void queries.invalidateQueries({ queryKey: [DELIVERIES] })), [queries]),
  );
}
