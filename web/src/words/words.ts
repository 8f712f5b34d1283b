import english from "./en.json";

/** The interface's own words, kept as a message file so that they are a table of our own product. */
export type WordKey = keyof typeof english | PluralKey;

type PluralKey = keyof typeof english extends infer K ? (K extends `${infer Stem}.other` ? Stem : never) : never;

const words: Record<string, string> = english;
const plurals = new Intl.PluralRules("en");
const numbers = new Intl.NumberFormat("en");

/**
 * The words for `key` with `{name}` places filled in. With a number called `n`, the plural form of that number is taken where there is one.
 * Numbers are formatted.
 */
export function t(key: WordKey, values: Record<string, string | number> = {}): string {
  const form = typeof values.n === "number" ? words[`${key}.${plurals.select(values.n)}`] : undefined;
  const pattern = form ?? words[`${key}.other`] ?? words[key] ?? key;
  return pattern.replace(/\{(\w+)\}/g, (place, name: string) => {
    const value = values[name];
    return value === undefined ? place : typeof value === "number" ? numbers.format(value) : value;
  });
}

/** A number as people read it. */
export function count(n: number): string {
  return numbers.format(n);
}

const days = new Intl.DateTimeFormat("en-GB", { day: "numeric", month: "short", year: "numeric" });
const times = new Intl.DateTimeFormat("en-GB", { hour: "2-digit", minute: "2-digit" });
const HOUR = 3_600_000;

/** When something happened: "5 min ago", "3 h ago", "12 Oct 2026, 14:05". */
export function when(iso: string, now = Date.now()): string {
  const then = new Date(iso);
  const passed = now - then.getTime();
  if (passed < HOUR) {
    return passed < 60_000 ? t("time.now") : t("time.minutes", { n: Math.floor(passed / 60_000) });
  }
  return passed < 24 * HOUR
    ? t("time.hours", { n: Math.floor(passed / HOUR) })
    : `${days.format(then)}, ${times.format(then)}`;
}

/** "German, Finnish and Polish". */
export function list(items: string[]): string {
  return new Intl.ListFormat("en", { type: "conjunction" }).format(items);
}
