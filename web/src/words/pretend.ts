import type { Messages } from "./spoken";

const LETTERS = new Map(
  [...Array(26).keys()].flatMap((at): [string, string][] => {
    const pretended =
      "\u00e5\u0180\u00e7\u00f0\u00e9\u0192\u011d\u0125\u00ee\u0135\u0137\u013c\u0271\u00f1\u00f6\u00fe\u01eb\u0155\u0161\u0167\u00fb\u1e7d\u0175\u1e8b\u00fd\u017e";
    const upper =
      "\u00c5\u0181\u00c7\u00d0\u00c9\u0191\u011c\u0124\u00ce\u0134\u0136\u013b\u2c6e\u00d1\u00d6\u00de\u01ea\u0154\u0160\u0166\u00db\u1e7c\u0174\u1e8a\u00dd\u017d";
    return [
      [String.fromCharCode(97 + at), pretended.charAt(at)],
      [String.fromCharCode(65 + at), upper.charAt(at)],
    ];
  }),
);

/**
 * A language that nobody speaks, made of the English words: every Latin letter becomes another that can still be read, and every message a third
 * longer. What is seen in plain letters is then either people's data or words that the message file lacks.
 */
export function pretend(english: Messages): Messages {
  return Object.fromEntries(Object.entries(english).map(([key, words]) => [key, pretended(words ?? "")]));
}

function pretended(words: string): string {
  const letters = words.replace(
    /(\{\w+\})|[A-Za-z]/g,
    (letter, place?: string) => place ?? LETTERS.get(letter) ?? letter,
  );
  return letters + "\u00b7".repeat(Math.ceil(words.replace(/\{\w+\}/g, "").length / 3));
}
