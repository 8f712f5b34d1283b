import { useInfiniteQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { ask, sentenceOf, type Schemas } from "../../api/client";
import { t } from "../../words/words";
import { announce } from "../../parts/announce";
import { outbox } from "../../sheet/outbox/outbox";
import { saidOf, undoing } from "../../sheet/undoing";
import type { Editor } from "../../sheet/useCellChanges";

export type Strip = Schemas["Strip"];

export const ORDERS = ["oldest", "newest", "table"] as const;
export const CHECKS = ["all", "sound", "warned", "blocked"] as const;
/** Days that offers have waited at least; 0 for any. */
export const AGES = [0, 1, 7, 30] as const;

/** What is looked at: offers in a language, of some tables or all, by one person or anyone. */
export interface Looking {
  language: string;
  tables: string[];
  person: number;
  days: number;
  checks: (typeof CHECKS)[number];
  order: (typeof ORDERS)[number];
}

/** An answer to offers, beside which of them. */
export type Answer = { action: "SETTLE" } | { action: "RETURN"; reason: string };

/** What an address looks at; {@link fallback} where it names no language. */
export function readLooking(query: URLSearchParams, fallback: string): Looking {
  return {
    language: (query.get("in") ?? "").split(",")[0] || fallback,
    tables: (query.get("table") ?? "").split(",").filter((slug) => slug !== ""),
    person: Number(query.get("person")) || 0,
    days: Math.max(0, Number(query.get("days")) || 0),
    checks: CHECKS.find((one) => one === query.get("checks")) ?? "all",
    order: ORDERS.find((one) => one === query.get("order")) ?? "oldest",
  };
}

/** The query string of what is looked at, the same for equal ones. */
export function writeLooking({ language, tables, person, days, checks, order }: Looking): string {
  const query = new URLSearchParams({ in: language });
  if (tables.length) query.set("table", tables.join(","));
  if (person) query.set("person", String(person));
  if (days) query.set("days", String(days));
  if (checks !== "all") query.set("checks", checks);
  if (order !== "oldest") query.set("order", order);
  return query.toString().replaceAll("%2C", ",");
}

/** Answers come in bursts; what is left is read when they rest. */
const REST_MS = 300;

/**
 * What waits, and answering it. Answered strips are gone at once; the request goes on in the background, and what is refused comes back with the
 * reason.
 */
export function useReview(looking: Looking, onSay: (sentence: string) => void) {
  const queries = useQueryClient();
  const query = useInfiniteQuery({
    queryKey: ["review", writeLooking(looking)],
    queryFn: ({ signal, pageParam }) =>
      ask<Schemas["ReviewReply"]>(`/api/review?${writeLooking(looking)}&from=${pageParam}`, { signal }),
    initialPageParam: 0,
    getNextPageParam: (last) => last.next,
    enabled: looking.language !== "",
  });
  const [answered, setAnswered] = useState<ReadonlySet<number>>(new Set());
  const [refused, setRefused] = useState<ReadonlyMap<number, string>>(new Map());
  const resting = useRef<ReturnType<typeof setTimeout> | undefined>(undefined);
  useEffect(() => () => clearTimeout(resting.current), []);

  const again = useCallback(async () => {
    await queries.invalidateQueries({ queryKey: ["review"] });
    for (const key of ["tables", "bell", "contributions"]) void queries.invalidateQueries({ queryKey: [key] });
  }, [queries]);
  const againSoon = useCallback(() => {
    clearTimeout(resting.current);
    resting.current = setTimeout(() => void again(), REST_MS);
  }, [again]);

  const strips = useMemo(() => {
    const all = (query.data?.pages ?? []).flatMap((page) => page.strips);
    const once = new Map(all.map((strip) => [strip.offer, strip]));
    return [...once.values()].filter((strip) => !answered.has(strip.offer));
  }, [query.data, answered]);

  const bringBack = useCallback((offers: number[], why: Map<number, string>) => {
    setAnswered((before) => new Set([...before].filter((offer) => !offers.includes(offer))));
    setRefused((before) => new Map([...before, ...why]));
  }, []);

  /** The other offers for the cells of {@link which}: one put in force sets them aside. */
  const withOthers = (which: Strip[]) =>
    strips.filter((strip) => which.some((one) => one.entry === strip.entry)).map((strip) => strip.offer);

  // Undo takes back the last answer, so it waits for those that are still on their way.
  const onTheirWay = useRef<Promise<unknown>>(Promise.resolve());
  const sent = (work: Promise<void>) => {
    onTheirWay.current = Promise.all([onTheirWay.current, work]);
    return work;
  };

  const answer = async (which: Strip[], how: Answer) => {
    const offers = which.map((strip) => strip.offer);
    const gone = how.action === "SETTLE" ? withOthers(which) : offers;
    const order = undoing.next();
    setAnswered((before) => new Set([...before, ...gone]));
    setRefused((before) => new Map([...before].filter(([offer]) => !gone.includes(offer))));
    try {
      const cells = which.map(({ entry, offer }) => ({ entry, language: looking.language, offer }));
      const done = await ask<Schemas["Many"]>("/api/cells/changes", {
        method: "POST",
        // Only who looks at a single offer says that it fits a source rewritten since.
        json: { ...how, cells, meaningConfirmed: which.length === 1 },
      });
      if (done.changed > 0) undoing.did({ change: done.change, entries: which.map((strip) => strip.entry) }, order);
      if (done.changed > 0 && which.length === 1) announce(t(`said.${how.action}`));
      const why = new Map<number, string>();
      for (const { entry, sentence } of done.refused) {
        for (const strip of which) if (strip.entry === entry) why.set(strip.offer, sentence);
      }
      if (why.size > 0) {
        bringBack(withOthers(which.filter((strip) => why.has(strip.offer))), why);
        onSay(done.refused[0]?.sentence ?? "");
      }
    } catch (failure) {
      bringBack(gone, new Map(offers.map((offer) => [offer, sentenceOf(failure)])));
      onSay(sentenceOf(failure));
    }
    againSoon();
  };

  const amend = async (strip: Strip, text: Pick<Schemas["CellChange"], "text" | "forms">, editor: Editor) => {
    const gone = withOthers([strip]);
    setAnswered((before) => new Set([...before, ...gone]));
    const change = { action: "AMEND" as const, offer: strip.offer, meaningConfirmed: true, ...text };
    const version = () => Promise.resolve(strip.version);
    const outcome = await outbox.change(strip.entry, looking.language, change, editor.seen, editor.id, version);
    if (!outcome.done && !outcome.waits) {
      bringBack(gone, new Map([[strip.offer, outcome.why]]));
      onSay(outcome.why);
    }
    againSoon();
  };

  const undo = async (redo: boolean) => {
    await onTheirWay.current;
    await outbox.rest();
    try {
      const undone = await (redo ? undoing.redo() : undoing.undo());
      if (undone) {
        setAnswered(new Set());
        await again();
        onSay(saidOf(undone) || t(redo ? "review.doneAgain" : "offers.undone"));
      } else {
        onSay(t(redo ? "undo.nothingAgain" : "undo.nothing"));
      }
    } catch (failure) {
      onSay(sentenceOf(failure));
    }
  };

  const first = query.data?.pages[0];
  return {
    query,
    strips,
    matching: first?.matching ?? 0,
    newest: first?.newest ?? 0,
    contributors: first?.contributors ?? [],
    refused,
    answer: (which: Strip[], how: Answer) => sent(answer(which, how)),
    amend: (strip: Strip, text: Parameters<typeof amend>[1], editor: Editor) => sent(amend(strip, text, editor)),
    undo,
    again,
  };
}
