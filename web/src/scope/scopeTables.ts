import type { Schemas } from "../api/client";
import { STATES, type CellState, type Scope } from "./scope";

type Table = Schemas["TableReply"];
type Kept = Schemas["LanguageReply"];

/** The tables of a scope, in its order; undefined when it names one that does not exist. */
export function tablesOf(scope: Scope, tables: Table[], products: Schemas["ProductReply"][]): Table[] | undefined {
  const product = products.find((one) => one.slug === scope.product);
  if (scope.product && !product) return undefined;
  const wanted = [...scope.tables, ...(product?.tables.map((table) => table.slug) ?? [])];
  if (wanted.length === 0) return scope.product ? [] : tables;
  const found = [...new Set(wanted)].map((slug) => tables.find((table) => table.slug === slug));
  return found.every((table) => table !== undefined) ? found : undefined;
}

/** The languages of some tables, each once, with the entries of all of them added up by state. */
export function languagesOf(tables: Table[]): Kept[] {
  const all = new Map<string, Kept>();
  for (const table of tables) {
    for (const kept of table.languages) {
      const sum = all.get(kept.language.tag);
      all.set(kept.language.tag, sum ? { ...sum, states: added(sum, kept), words: addedWords(sum, kept) } : kept);
    }
  }
  return [...all.values()];
}

function added(a: Kept, b: Kept): Record<string, number> {
  return Object.fromEntries(STATES.map((state) => [state, (a.states[state] ?? 0) + (b.states[state] ?? 0)]));
}

function addedWords(a: Kept, b: Kept): Record<string, number> {
  return Object.fromEntries(STATES.map((state) => [state, (a.words[state] ?? 0) + (b.words[state] ?? 0)]));
}

/** What is left to settle in a language, in entries or words. */
export function left(kept: Kept, unit: "entries" | "words"): number {
  const counts = unit === "words" ? kept.words : kept.states;
  return STATES.filter((state: CellState) => state !== "settled").reduce((sum, one) => sum + (counts[one] ?? 0), 0);
}
