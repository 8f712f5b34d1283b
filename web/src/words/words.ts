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

/** A day as people read it: "12 Oct 2026". */
export function day(iso: string): string {
  return days.format(new Date(iso));
}

/** When something happened: "5 minutes ago", "3 hours ago", "2 days ago", "12 Oct 2026, 14:05". */
export function when(iso: string, now = Date.now()): string {
  const then = new Date(iso);
  const minutes = Math.floor((now - then.getTime()) / 60_000);
  if (minutes < 1) return t("time.now");
  if (minutes < 60) return t("time.minutes", { n: minutes });
  if (minutes < 24 * 60) return t("time.hours", { n: Math.floor(minutes / 60) });
  const passed = Math.floor(minutes / (24 * 60));
  return passed < 14 ? t("time.days", { n: passed }) : `${days.format(then)}, ${times.format(then)}`;
}
