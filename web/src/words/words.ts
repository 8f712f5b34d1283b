import { patternOf, speaking, type WordKey } from "./spoken";

export type { WordKey } from "./spoken";

/** What fills the places of a pattern; numbers are formatted. */
export type Values = Record<string, string | number>;

const PLACE = /\{(\w+)\}/g;

/** The words for `key` with `{name}` places filled in. With a number called `n`, the plural form of that number is taken where there is one. */
export function t(key: WordKey, values: Values = {}): string {
  const pattern = patternOf(key, typeof values.n === "number" ? values.n : undefined);
  return pattern.replace(PLACE, (place, name: string) => filled(values[name]) ?? place);
}

/** The pieces of a sentence: words, and the names of the places that `values` does not fill. */
export function piecesOf(key: WordKey, values: Values = {}): ({ words: string } | { place: string })[] {
  const pattern = patternOf(key, typeof values.n === "number" ? values.n : undefined);
  return pattern
    .split(/(\{\w+\})/)
    .filter((piece) => piece !== "")
    .map((piece) => {
      const place = /^\{(\w+)\}$/.exec(piece)?.[1];
      if (place === undefined) return { words: piece };
      const words = filled(values[place]);
      return words === undefined ? { place } : { words };
    });
}

function filled(value: string | number | undefined): string | undefined {
  return typeof value === "number" ? count(value) : value;
}

/** A number as people read it. */
export function count(n: number): string {
  return speaking().numbers.format(n);
}

/** A share of a hundred as people read it: "38%". */
export function percent(n: number): string {
  return speaking().percent.format(n / 100);
}

/** Names one after the other: "Finnish, Estonian". */
export function listed(names: string[]): string {
  return speaking().all.format(names);
}

/** Names of which one is enough: "stale, returned, or offered". */
export function anyOf(names: string[]): string {
  return speaking().oneOf.format(names);
}

/** A language as the server tells of it. */
interface Named {
  tag: string;
  /** What it is called in English, also where it is one that no standard knows. */
  englishName: string;
}

/** What a language is called in the language of the interface. */
export function languageName({ tag, englishName }: Named): string {
  return speaking().tag === "en" ? englishName : (standardName(tag) ?? englishName);
}

/** What the language of a tag is called: as `known` has it, else as the standards have it; the tag itself where nobody knows. */
export function nameOfTag(tag: string, known: { language: Named }[] = []): string {
  const one = known.find(({ language }) => language.tag === tag);
  return one ? languageName(one.language) : (standardName(tag) ?? tag);
}

function standardName(tag: string): string | undefined {
  try {
    return speaking().languages.of(tag);
  } catch {
    // A tag of somebody's own, or one that is still being typed.
    return undefined;
  }
}

/** A day as people read it: "12 Oct 2026". */
export function day(iso: string): string {
  return speaking().days.format(new Date(iso));
}

/** The short name of the month of a time, given in ms since 1970: "Oct". */
export function month(time: number): string {
  return speaking().months.format(time);
}

/** A moment as the calendar and the clock show it, also one that is still to come. */
export function moment(iso: string): string {
  return t("time.moment", { day: day(iso), time: speaking().times.format(new Date(iso)) });
}

/** When something happened: "5 minutes ago", "3 hours ago", "2 days ago", "12 Oct 2026, 14:05". */
export function when(iso: string, now = Date.now()): string {
  const then = new Date(iso);
  const minutes = Math.floor((now - then.getTime()) / 60_000);
  if (minutes < 1) return t("time.now");
  if (minutes < 60) return t("time.minutes", { n: minutes });
  if (minutes < 24 * 60) return t("time.hours", { n: Math.floor(minutes / 60) });
  const passed = Math.floor(minutes / (24 * 60));
  return passed < 14 ? t("time.days", { n: passed }) : moment(iso);
}
