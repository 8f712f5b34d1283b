import { useQuery, type QueryClient } from "@tanstack/react-query";
import { ask, type Schemas } from "../api/client";
import { formsOf, type Forms } from "./shapes";

export type MemoryHit = Schemas["MemoryHit"];

/** What a footnote says is asked for again by itself only after that long: what changes tells of itself, and resting on a cell asks for all of it at once. */
export const NOTED_MS = 300_000;

/** The first word of the key of what the memory says. */
export const MEMORY = "memory";

const keyOf = (entry: number, language: string) => [MEMORY, entry, language];

/** Settled texts of entries with a source like this one's. */
export function useMemory(entry: number, language: string) {
  return useQuery({
    queryKey: keyOf(entry, language),
    queryFn: ({ signal }) =>
      ask<MemoryHit[]>(`/api/entries/${entry}/cells/${encodeURIComponent(language)}/memory`, { signal }),
    staleTime: NOTED_MS,
  });
}

/** The letter of the hit at `index`: a, b, c … */
export function letterAt(index: number): string {
  return String.fromCharCode("a".charCodeAt(0) + index);
}

/** The text of the hit of that letter, if it is on the screen. */
export function hitOf(queries: QueryClient, entry: number, language: string, letter: string): Forms | null {
  const hits = queries.getQueryData<MemoryHit[]>(keyOf(entry, language));
  const hit = hits?.[letter.charCodeAt(0) - "a".charCodeAt(0)];
  return hit ? formsOf(hit.text, hit.forms) : null;
}
