/** States of a cell in the order in which they are shown. */
export const STATES = ["untranslated", "pencilled", "offered", "returned", "stale", "settled"] as const;
export type CellState = (typeof STATES)[number];

/** What one is looking at: the same object behind the sentence, the address and the server's query, on every screen. */
export interface Scope {
  /** Names of tables in addresses; every table when empty and no product is named. */
  tables: string[];
  /** The product whose tables are meant, empty for none. */
  product: string;
  languages: string[];
  /** Only entries whose cell is in one of these states; all when empty. */
  only: CellState[];
  by: Order;
  /** Only entries with these words; all when empty. */
  words: string;
  section: string;
  tag: string;
  /** Only what this person changed last or offers. */
  person: number | null;
  /** Only what changed at or after this instant (ISO 8601), empty for all. */
  since: string;
  /** Only entries that this intake touched. */
  intake: number | null;
  /** Only entries with an open question. */
  asked: boolean;
  /** Only entries in whose shown texts the checks find a blocker, anything, or something of this kind; empty for all. */
  check: string;
  /** Only entries that the code of products uses, or that it does not use; empty for all. */
  code: "" | "used" | "unused";
}

/** The orders of a scope. */
export const ORDERS = ["section", "key", "changed", "length", "short", "state"] as const;
export type Order = (typeof ORDERS)[number];

/** A scope of everything. */
export const EVERYTHING: Scope = {
  tables: [],
  product: "",
  languages: [],
  only: [],
  by: "section",
  words: "",
  section: "",
  tag: "",
  person: null,
  since: "",
  intake: null,
  asked: false,
  check: "",
  code: "",
};

/** Reads a scope from an address's query. What is unknown is left out. */
export function readScope(query: URLSearchParams): Scope {
  const since = query.get("since") ?? "";
  return {
    tables: list(query.get("table")),
    product: query.get("product") ?? "",
    languages: list(query.get("in")),
    only: list(query.get("only")).filter((state): state is CellState => (STATES as readonly string[]).includes(state)),
    by: ORDERS.find((order) => order === query.get("by")) ?? "section",
    words: query.get("words") ?? "",
    section: query.get("section") ?? "",
    tag: query.get("tag") ?? "",
    person: number(query.get("person")),
    since: Number.isNaN(Date.parse(since)) ? "" : since,
    intake: number(query.get("intake")),
    asked: query.get("asked") === "open",
    check: /^[a-z]+$/.test(query.get("check") ?? "") ? (query.get("check") ?? "") : "",
    code: (["used", "unused"] as const).find((use) => use === query.get("code")) ?? "",
  };
}

/** The query string of a scope, the same for equal scopes. */
export function writeScope(scope: Scope): string {
  const query = new URLSearchParams();
  if (scope.tables.length) query.set("table", scope.tables.join(","));
  if (scope.product) query.set("product", scope.product);
  if (scope.languages.length) query.set("in", scope.languages.join(","));
  if (scope.only.length) query.set("only", STATES.filter((state) => scope.only.includes(state)).join(","));
  if (scope.by !== "section") query.set("by", scope.by);
  if (scope.words) query.set("words", scope.words);
  if (scope.section) query.set("section", scope.section);
  if (scope.tag) query.set("tag", scope.tag);
  if (scope.person !== null) query.set("person", String(scope.person));
  if (scope.since) query.set("since", scope.since);
  if (scope.intake !== null) query.set("intake", String(scope.intake));
  if (scope.asked) query.set("asked", "open");
  if (scope.check) query.set("check", scope.check);
  if (scope.code) query.set("code", scope.code);
  return query.toString().replaceAll("%2C", ",");
}

/** The address of the ledger at a scope of which only `part` is said. */
export function ledgerAt(part: Partial<Scope>): string {
  return `/ledger?${writeScope({ ...EVERYTHING, ...part })}`;
}

function list(value: string | null): string[] {
  return (value ?? "").split(",").filter((part, at, all) => part !== "" && all.indexOf(part) === at);
}

function number(value: string | null): number | null {
  const n = Number(value);
  return Number.isInteger(n) && n > 0 ? n : null;
}
