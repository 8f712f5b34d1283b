import english from "./en.json";

/** The interface's own words, kept as a message file so that they are a table of our own product. */
export type WordKey = keyof typeof english | PluralKey;

type PluralKey = keyof typeof english extends infer K ? (K extends `${infer Stem}.other` ? Stem : never) : never;

/** Words by their keys; what a language lacks is said in English. */
export type Messages = Partial<Record<string, string>>;

/** A language that the interface speaks, with everything that is said by its habits. */
interface Spoken {
  /** BCP 47. */
  tag: string;
  words: Messages;
  plurals: Intl.PluralRules;
  numbers: Intl.NumberFormat;
  percent: Intl.NumberFormat;
  days: Intl.DateTimeFormat;
  times: Intl.DateTimeFormat;
  months: Intl.DateTimeFormat;
  all: Intl.ListFormat;
  oneOf: Intl.ListFormat;
  languages: Intl.DisplayNames;
}

const ENGLISH: Messages = english;
const ENGLISH_PLURALS = new Intl.PluralRules("en");

function speaker(tag: string, words: Messages): Spoken {
  // The day before the month, as most who read English here write it.
  const dated = /^en($|-x-)/.test(tag) ? "en-GB" : tag;
  return {
    tag,
    words,
    plurals: new Intl.PluralRules(tag),
    numbers: new Intl.NumberFormat(tag),
    percent: new Intl.NumberFormat(tag, { style: "percent" }),
    days: new Intl.DateTimeFormat(dated, { day: "numeric", month: "short", year: "numeric" }),
    times: new Intl.DateTimeFormat(dated, { hour: "2-digit", minute: "2-digit" }),
    months: new Intl.DateTimeFormat(dated, { month: "short", timeZone: "UTC" }),
    all: new Intl.ListFormat(tag, { type: "unit", style: "short" }),
    oneOf: new Intl.ListFormat(tag, { type: "disjunction" }),
    languages: new Intl.DisplayNames(tag, { type: "language", fallback: "none", languageDisplay: "standard" }),
  };
}

let spoken = speaker("en", ENGLISH);

/** The language that the interface speaks now. */
export function speaking(): Spoken {
  return spoken;
}

/** Has the interface speak `tag`; to be said before anything is drawn. */
export function speak(tag: string, words: Messages): void {
  spoken = speaker(tag, words);
  document.documentElement.lang = tag;
}

/** The pattern of a key in the plural form of `n` where there is one; in English where the language has no words for it. */
export function patternOf(key: string, n?: number): string {
  for (const [words, plurals] of [
    [spoken.words, spoken.plurals],
    [ENGLISH, ENGLISH_PLURALS],
  ] as const) {
    const form = n === undefined ? undefined : words[`${key}.${plurals.select(n)}`];
    const pattern = form ?? words[`${key}.other`] ?? words[key];
    if (pattern !== undefined) return pattern;
  }
  return key;
}

/** Whether there are words for a key that comes from elsewhere, such as a code of the server. */
export function hasWords(key: string): key is WordKey {
  return [spoken.words, ENGLISH].some((words) => words[key] !== undefined || words[`${key}.other`] !== undefined);
}
