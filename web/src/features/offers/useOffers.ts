import { useInfiniteQuery, useQuery, useQueryClient } from "@tanstack/react-query";
import { ask, type Schemas } from "../../api/client";
import { undoing } from "../../sheet/undoing";

export type OfferLine = Schemas["OfferLine"];

/** What became of offers, in the order in which one asks for it. */
export const ANSWERS = ["returned", "open", "settled", "amended", "set_aside", "withdrawn"] as const;
export type Answer = (typeof ANSWERS)[number];

/** A person's offers, the newest first, a page at a time. */
export function useOffers(person: number, language: string, answer: Answer | "") {
  const query = new URLSearchParams();
  if (language) query.set("in", language);
  if (answer) query.set("answer", answer);
  return useInfiniteQuery({
    queryKey: ["offers", person, query.toString()],
    queryFn: ({ signal, pageParam }) =>
      ask<Schemas["Offers"]>(`/api/people/${person}/offers?${query.toString()}&after=${pageParam}`, { signal }),
    initialPageParam: 0,
    getNextPageParam: (last) => last.next,
  });
}

/** What one pencilled and has not put forward. */
export function useDrafts() {
  return useQuery({
    queryKey: ["offers", "drafts"],
    queryFn: ({ signal }) => ask<Schemas["Draft"][]>("/api/drafts", { signal }),
  });
}

interface Place {
  entry: number;
  language: string;
  version: number;
}

/** What one can do with one's own offers and drafts; each is one change, which can be undone. */
export function useOfferChanges() {
  const queries = useQueryClient();
  const again = async () => {
    for (const key of ["tables", "bell", "contributions"]) void queries.invalidateQueries({ queryKey: [key] });
    await queries.invalidateQueries({ queryKey: ["offers"] });
  };
  const change = async ({ entry, language, version }: Place, json: Record<string, unknown>) => {
    const path = `/api/entries/${entry}/cells/${encodeURIComponent(language)}/changes`;
    const done = await ask<Schemas["CellChanged"]>(path, {
      method: "POST",
      json: { version, meaningConfirmed: false, ...json },
    });
    undoing.did({ change: done.change, entries: [entry] });
    await again();
  };
  return {
    change,
    again,
    say: async (offer: number, note: string) => {
      await ask(`/api/offers/${offer}/note`, { method: "PUT", json: { note } });
      await again();
    },
  };
}
