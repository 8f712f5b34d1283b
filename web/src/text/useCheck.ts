import { keepPreviousData, useQuery, type QueryClient } from "@tanstack/react-query";
import { useEffect, useState, useSyncExternalStore } from "react";
import { ask, type Schemas } from "../api/client";
import type { Draft } from "./draft";
import { NOTED_MS } from "./memory";
import type { Forms } from "./shapes";
import { spotsIn, type Spot } from "./spots";

/** The first word of the key of what the checks say. */
export const CHECK = "check";

const PAUSE_MS = 200;
const NONE: Forms = {};
const nothing = () => () => undefined;

/** What there is to say about the text of a cell: the one being typed, shortly after the last key, else the one that stands there. */
export function useCheck(entry: number, language: string, standing: Forms, draft: Draft | null) {
  const typed = useSyncExternalStore(draft?.subscribe ?? nothing, () => draft?.forms ?? NONE);
  const forms = useSettled(draft ? typed : standing);
  const query = useQuery({
    queryKey: [CHECK, entry, language, forms],
    queryFn: ({ signal }) =>
      ask<Schemas["CheckReply"]>(`/api/entries/${entry}/cells/${encodeURIComponent(language)}/check`, {
        method: "POST",
        json: { forms },
        signal,
      }),
    placeholderData: (before, query) => (query?.queryKey[1] === entry ? keepPreviousData(before) : undefined),
    staleTime: NOTED_MS,
    gcTime: 60_000,
  });
  // Places are those of the text that was looked at; they are no places of another.
  const spots = (form: string, text: string): Spot[] =>
    query.data && !query.isPlaceholderData && forms[form] === text ? spotsIn(query.data.findings, form) : [];
  return { ...query, spots };
}

/** The letter that mends, with Alt. */
export const MEND_LETTER = "m";

/** A text with the first sure mend of what was found in it, as the checks last said of this text; null when there is none. */
export function mendedBy(queries: QueryClient, entry: number, language: string, forms: Forms): Forms | null {
  const check = queries.getQueryData<Schemas["CheckReply"]>([CHECK, entry, language, forms]);
  const finding = check?.findings.find((one) => one.mended !== undefined);
  return finding?.mended === undefined ? null : { ...forms, [finding.form]: finding.mended };
}

/** The value once it has not changed for a moment. */
function useSettled(value: Forms): Forms {
  const [settled, setSettled] = useState(value);
  const spelled = JSON.stringify(value);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(JSON.parse(spelled) as Forms), PAUSE_MS);
    return () => clearTimeout(timer);
  }, [spelled]);
  return settled;
}
