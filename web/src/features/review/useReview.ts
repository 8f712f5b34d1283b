import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useState } from "react";
import { ask, sentenceOf, type Schemas } from "../../api/client";
import { undoing } from "../ledger/undoing";

export type Strip = Schemas["Strip"];

/** What is looked at: offers in a language, of some tables or all, by one person or anyone. */
export interface Looking {
  language: string;
  tables: string[];
  person: number;
  newest: boolean;
}

/** An answer to offers, beside which of them. */
export type Answer = { action: "SETTLE" } | { action: "RETURN"; reason: string };

/** The query string of what is looked at, the same for equal ones. */
export function writeLooking({ language, tables, person, newest }: Looking): string {
  const query = new URLSearchParams({ in: language });
  if (tables.length) query.set("table", tables.join(","));
  if (person) query.set("person", String(person));
  if (newest) query.set("newest", "true");
  return query.toString().replaceAll("%2C", ",");
}

/**
 * What waits, and answering it. Answered strips are gone at once; the request goes on in the background, and what is refused comes back with the
 * reason.
 */
export function useReview(looking: Looking, onSay: (sentence: string) => void) {
  const queries = useQueryClient();
  const query = useQuery({
    queryKey: ["review", writeLooking(looking)],
    queryFn: ({ signal }) => ask<Schemas["ReviewReply"]>(`/api/review?${writeLooking(looking)}`, { signal }),
    enabled: looking.language !== "",
  });
  const [answered, setAnswered] = useState<ReadonlySet<number>>(new Set());
  const [refused, setRefused] = useState<ReadonlyMap<number, string>>(new Map());

  const again = useCallback(async () => {
    await queries.invalidateQueries({ queryKey: ["review"] });
    void queries.invalidateQueries({ queryKey: ["tables"] });
  }, [queries]);

  const bringBack = useCallback((offers: number[], why: Map<number, string>) => {
    setAnswered((before) => new Set([...before].filter((offer) => !offers.includes(offer))));
    setRefused((before) => new Map([...before, ...why]));
  }, []);

  const answer = useCallback(
    async (strips: Strip[], how: Answer) => {
      const offers = strips.map((strip) => strip.offer);
      setAnswered((before) => new Set([...before, ...offers]));
      setRefused((before) => new Map([...before].filter(([offer]) => !offers.includes(offer))));
      try {
        const cells = strips.map(({ entry, offer }) => ({ entry, language: looking.language, offer }));
        const done = await ask<Schemas["Many"]>("/api/cells/changes", {
          method: "POST",
          json: { ...how, cells, meaningConfirmed: true },
        });
        if (done.changed > 0) undoing.did({ change: done.change, entries: strips.map((strip) => strip.entry) });
        const why = new Map<number, string>();
        for (const { entry, sentence } of done.refused) {
          for (const strip of strips) if (strip.entry === entry) why.set(strip.offer, sentence);
        }
        if (why.size > 0) {
          bringBack([...why.keys()], why);
          onSay(done.refused[0]?.sentence ?? "");
        }
      } catch (failure) {
        bringBack(offers, new Map(offers.map((offer) => [offer, sentenceOf(failure)])));
        onSay(sentenceOf(failure));
      }
      await again();
    },
    [looking.language, onSay, again, bringBack],
  );

  const amend = useCallback(
    async (strip: Strip, text: Pick<Schemas["CellChange"], "text" | "forms">) => {
      setAnswered((before) => new Set([...before, strip.offer]));
      try {
        const path = `/api/entries/${strip.entry}/cells/${encodeURIComponent(looking.language)}/changes`;
        const json = { action: "AMEND", offer: strip.offer, version: strip.version, meaningConfirmed: true, ...text };
        const done = await ask<Schemas["CellChanged"]>(path, { method: "POST", json });
        undoing.did({ change: done.change, entries: [strip.entry] });
      } catch (failure) {
        bringBack([strip.offer], new Map([[strip.offer, sentenceOf(failure)]]));
        onSay(sentenceOf(failure));
      }
      await again();
    },
    [looking.language, onSay, again, bringBack],
  );

  const undo = useCallback(
    async (redo: boolean) => {
      const undone = await (redo ? undoing.redo() : undoing.undo());
      if (undone) {
        setAnswered(new Set());
        await again();
        if (undone.refused.length) onSay(undone.refused[0] ?? "");
      }
      return undone !== null;
    },
    [again, onSay],
  );

  const strips = (query.data?.strips ?? []).filter((strip) => !answered.has(strip.offer));
  return { query, strips, refused, answer, amend, undo };
}
