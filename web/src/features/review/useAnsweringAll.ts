import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { ask, sentenceOf, type Schemas } from "../../api/client";
import { goesOn } from "../../api/run";
import { undoing } from "../../sheet/undoing";
import type { Answer, Looking } from "./useReview";

const POLL_MS = 400;

/** One answer for everything that matches, carried out by the server as a run that survives a closed page. */
export function useAnsweringAll(looking: Looking, onDone: () => void) {
  const [change, setChange] = useState<number | null>(null);
  const [failure, setFailure] = useState("");
  const state = useQuery({
    queryKey: ["answering", change],
    queryFn: ({ signal }) => ask<Schemas["Answering"]>(`/api/review/answers/${change}`, { signal }),
    enabled: change !== null,
    refetchInterval: (query) => (goesOn(query.state.data ?? { status: "going" }) ? POLL_MS : false),
  });
  const done = state.data !== undefined && !goesOn(state.data);
  const changed = state.data?.changed ?? 0;
  useEffect(() => {
    if (!done) return;
    if (changed > 0 && change !== null) undoing.did({ change, entries: [] });
    onDone();
    // eslint-disable-next-line react-hooks/exhaustive-deps -- told once, when it is done
  }, [done]);
  const begin = async (answer: Answer, upTo: number) => {
    setFailure("");
    try {
      const { language, tables, person, days, checks } = looking;
      const json = { language, tables, person, days, checks, ...answer, upTo };
      const started = await ask<Schemas["Started"]>("/api/review/answers", { method: "POST", json });
      setChange(started.change);
    } catch (wrong) {
      setFailure(sentenceOf(wrong));
    }
  };
  return {
    state: change === null ? null : (state.data ?? null),
    going: change !== null && !done,
    failure: failure || (state.error ? sentenceOf(state.error) : ""),
    begin,
    cancel: () => void ask(`/api/review/answers/${change}`, { method: "DELETE" }),
    close: () => {
      setChange(null);
      setFailure("");
    },
  };
}
