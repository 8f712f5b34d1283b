import { useQuery } from "@tanstack/react-query";
import { ask, type Schemas } from "../../api/client";

export type Notice = Schemas["Notice"];

const EVERY_MS = 60_000;

export const BELL = ["bell"];

/** What waits for one and what became of what one did, asked for again every minute. */
export function useBell() {
  return useQuery({
    queryKey: BELL,
    queryFn: ({ signal }) => ask<Notice[]>("/api/bell", { signal }),
    refetchInterval: EVERY_MS,
  });
}
