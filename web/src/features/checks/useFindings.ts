import { useInfiniteQuery, useQuery } from "@tanstack/react-query";
import { ask, type Schemas } from "../../api/client";

/** The first word of the keys of what is found. */
export const FINDINGS = "findings";

/** While texts are looked at again, counts are asked for again as often. */
const AGAIN_MS = 1_000;

/** How many texts of a scope have a finding, by kind. */
export function useFindingCounts(scope: string) {
  return useQuery({
    queryKey: [FINDINGS, "counts", scope],
    queryFn: ({ signal }) =>
      ask<Schemas["FindingCounts"]>(`/api/findings/counts?scope=${encodeURIComponent(scope)}`, { signal }),
    staleTime: 5_000,
    refetchInterval: (query) => (catchingUp(query.state.data) ? AGAIN_MS : false),
  });
}

/** Whether texts are being looked at again just now. */
export function catchingUp(counts: Schemas["FindingCounts"] | undefined): boolean {
  return counts !== undefined && counts.again.tables > counts.again.stopped;
}

/** The texts with a finding of a kind, a hundred at a time. */
export function usePlaces(scope: string, kind: string) {
  return useInfiniteQuery({
    queryKey: [FINDINGS, "places", scope, kind],
    queryFn: ({ pageParam, signal }) =>
      ask<Schemas["FindingPage"]>(
        `/api/findings?scope=${encodeURIComponent(scope)}&kind=${kind}${pageParam ? `&after=${pageParam}` : ""}`,
        { signal },
      ),
    initialPageParam: "",
    getNextPageParam: (page) => page.next ?? undefined,
    enabled: kind !== "",
    staleTime: 5_000,
  });
}

/** What of a kind can be mended in one sure way. */
export function useMends(scope: string, kind: string) {
  return useQuery({
    queryKey: [FINDINGS, "mends", scope, kind],
    queryFn: ({ signal }) =>
      ask<Schemas["FindingMends"]>(`/api/findings/mends?scope=${encodeURIComponent(scope)}&kind=${kind}`, { signal }),
    enabled: kind !== "",
    staleTime: 5_000,
  });
}
