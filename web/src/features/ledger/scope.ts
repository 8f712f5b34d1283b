/** The states of a cell in the order in which the first that holds is shown. */
export const STATES = ["offered", "returned", "stale", "settled", "pencilled", "untranslated"] as const;
export type CellState = (typeof STATES)[number];

/** What one is looking at. One object in code, one query string in the address, one sentence on the screen. */
export interface Scope {
  /** The table's name in addresses; empty when none was chosen yet. */
  table: string;
  /** Language tags, in the order shown. */
  languages: string[];
  /** Only entries with a cell in one of these states; all when empty. */
  only: CellState[];
  by: "section" | "key";
  /** Only entries with these words; all when empty. */
  words: string;
  /** Only entries that this intake touched. */
  intake: number | null;
}

/** Reads a scope from an address's query. What is unknown is left out. */
export function readScope(query: URLSearchParams): Scope {
  const intake = Number(query.get("intake"));
  return {
    table: query.get("table") ?? "",
    languages: list(query.get("in")),
    only: list(query.get("only")).filter((state): state is CellState => (STATES as readonly string[]).includes(state)),
    by: query.get("by") === "key" ? "key" : "section",
    words: query.get("words") ?? "",
    intake: Number.isInteger(intake) && intake > 0 ? intake : null,
  };
}

/** The query string of a scope, the same for equal scopes. */
export function writeScope(scope: Scope): string {
  const query = new URLSearchParams();
  if (scope.table) query.set("table", scope.table);
  if (scope.languages.length) query.set("in", scope.languages.join(","));
  if (scope.only.length) query.set("only", STATES.filter((state) => scope.only.includes(state)).join(","));
  if (scope.by !== "section") query.set("by", scope.by);
  if (scope.words) query.set("words", scope.words);
  if (scope.intake !== null) query.set("intake", String(scope.intake));
  return query.toString().replaceAll("%2C", ",");
}

function list(value: string | null): string[] {
  return (value ?? "").split(",").filter((part, at, all) => part !== "" && all.indexOf(part) === at);
}
