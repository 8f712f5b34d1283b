import { useState } from "react";
import { ask, sentenceOf, type Schemas } from "../../api/client";

export type EntriesChanged = Schemas["Changed"];

/**
 * Sends one change of entries at a time.
 *
 * @param onDone - called with what came of it
 */
export function useEntryChange(onDone: (changed: EntriesChanged) => void) {
  const [busy, setBusy] = useState(false);
  const [wrong, setWrong] = useState<string | null>(null);
  const send = async (path: string, method: "POST" | "PUT", json: unknown) => {
    setBusy(true);
    setWrong(null);
    try {
      onDone(await ask<EntriesChanged>(path, { method, json }));
    } catch (failure) {
      setWrong(sentenceOf(failure));
    } finally {
      setBusy(false);
    }
  };
  return { busy, wrong, setWrong, send };
}
