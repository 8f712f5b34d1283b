import type { Schemas } from "../../api/client";

/** What scenes are played with. */
export const PLAYS = ["written", "offered", "settled", "delivered", "keys"] as const;

/** Tags of pretend languages. */
export const PRETEND = ["en-XA", "ar-XB"] as const;

/** What pretend languages do to letters. */
export const LETTERS = ["accented", "wide", "marked", "plain"] as const;

/** As many languages side by side as the server sets. */
export const MOST = 4;

/** How a product is asked for a language. */
export type How = "number" | "list" | "address";

/** What a product of a kind is asked by; a game is told in its settings. */
export const ASKED_BY: Record<string, How[]> = {
  panel: ["number"],
  app: ["list"],
  site: ["address", "list"],
  game: [],
};

/** How a product was asked, `number:7`; null for not at all. */
export function askedIn(query: URLSearchParams): { how: How; asked: string } | null {
  const [how = "", ...rest] = (query.get("asked") ?? "").split(":");
  const asked = rest.join(":");
  return asked !== "" && ["number", "list", "address"].includes(how) ? { how: how as How, asked } : null;
}

/**
 * The languages that are shown side by side.
 *
 * @param chosen - the languages of the address, none for where the product starts
 * @param answer - the language that the product answered with, which comes first; null where it was not asked
 */
export function shownLanguages(chosen: string[], answer: string | null): string[] {
  if (answer === null) return chosen.slice(0, MOST);
  return [answer, ...chosen.slice(1).filter((tag) => tag !== answer)].slice(0, MOST);
}

/** What the server is asked for. */
export function playedQuery(query: URLSearchParams, languages: string[]): string {
  const asked = new URLSearchParams(languages.map((tag) => ["in", tag]));
  for (const name of ["play", "with", "choose", "letters", "longer", "size"]) {
    for (const value of query.getAll(name)) asked.append(name, value);
  }
  return asked.toString();
}

/** Which form a value chooses, by language: the forms in use that hang on it. */
export function formsBy(stages: Schemas["Stage"][], name: string): { language: string; forms: string[] }[] {
  return stages
    .map(({ language, texts }) => ({
      language,
      forms: [...new Set(texts.filter((text) => text.by === name).map(({ form }) => form))],
    }))
    .filter(({ forms }) => forms.length > 0);
}

/** What stands at places that leave a choice, as an address says it, with one of them changed. */
export function chosenWith(query: URLSearchParams, place: number, value: string): string[] {
  return [...query.getAll("choose").filter((one) => !one.startsWith(`${place}=`)), `${place}=${value}`];
}

/** The choice that a product remembers, kept in this browser for each product. */
export function choiceKey(product: string): string {
  return `mellow.rehearsal.choice.${product}`;
}

/**
 * What is wrong in a scene: as it is played in the languages that are shown, whatever it is played with, and as it is kept for the others.
 *
 * @param kept - of this scene
 */
export function findingsNow(played: Schemas["Played"], kept: Schemas["FoundInScene"][]): Schemas["FoundInScene"][] {
  const shown = new Set(played.stages.map(({ language }) => language));
  const now = played.stages.flatMap(({ language, texts }) =>
    texts.flatMap(({ place, key, findings }) =>
      findings.map((finding) => ({ scene: played.id, name: played.name, language, place, key, finding })),
    ),
  );
  now.sort((a, b) => Number(b.finding.wrong) - Number(a.finding.wrong));
  // Of a list only one entry is played.
  const listed = new Map(played.choices.flatMap(({ place, list, now: key }) => (list ? [[place, key] as const] : [])));
  const others = kept.filter(
    ({ language, place, key }) => !shown.has(language) || (listed.has(place) && listed.get(place) !== key),
  );
  return [...now, ...others];
}
