import { useEffect } from "react";

/** Something that changed, here or elsewhere. */
export interface LiveChange {
  /** The table's number; 0 when the line was down and anything may have changed. */
  table: number;
  /** The entries concerned, empty for "so many that it is quicker to read again". */
  entries: number[];
  /** Tags of the languages whose cells changed, empty for the entries themselves. */
  languages: string[];
}

type Listener = (change: LiveChange) => void;

const listeners = new Set<Listener>();
let source: EventSource | null = null;
let missedSome = false;
const AGAIN_MS = 3_000;
const ANYTHING: LiveChange = { table: 0, entries: [], languages: [] };

function connect(): void {
  if (source || typeof EventSource === "undefined") return;
  source = new EventSource("/api/live");
  source.addEventListener("error", () => {
    // After a reply that is no stream, as while the database is away, the browser does not connect again by itself.
    if (source?.readyState !== EventSource.CLOSED) return;
    source = null;
    if (listeners.size > 0) setTimeout(connectAgain, AGAIN_MS);
  });
  let opened = missedSome;
  missedSome = false;
  source.addEventListener("open", () => {
    // The browser connects again by itself; what happened in between has to be read.
    if (opened) tell(ANYTHING);
    opened = true;
  });
  source.addEventListener("missed", () => tell(ANYTHING));
  source.addEventListener("change", (event) => tell(JSON.parse(String(event.data)) as LiveChange));
}

function connectAgain(): void {
  if (source || listeners.size === 0) return;
  missedSome = true;
  connect();
}

function tell(change: LiveChange): void {
  for (const listener of listeners) listener(change);
}

/** Hears every change while the component is shown; one line to the server for the whole page. `listener` should be stable. */
export function useLive(listener: Listener): void {
  useEffect(() => {
    listeners.add(listener);
    connect();
    return () => {
      listeners.delete(listener);
      if (listeners.size === 0) {
        source?.close();
        source = null;
      }
    };
  }, [listener]);
}

/**
 * Does `work` soon after it is first asked for, and at most once per `milliseconds`, however many people change things at once.
 *
 * @returns what asks for it
 */
export function atMostEvery(milliseconds: number, work: () => void): () => void {
  let waiting: ReturnType<typeof setTimeout> | undefined;
  return () => {
    waiting ??= setTimeout(() => {
      waiting = undefined;
      work();
    }, milliseconds);
  };
}
