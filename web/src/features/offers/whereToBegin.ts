import type { Schemas } from "../../api/client";

type Table = Schemas["TableReply"];

/** A table that lacks texts in a language. */
export interface Need {
  table: Table;
  untranslated: number;
  stale: number;
}

/** More would be a list to choose from, not a place to begin. */
const MOST = 3;

/** Per language that one contributes to: the tables that need help most, by the share of entries that are untranslated or stale. */
export function whereToBegin(
  tables: Table[],
  contributes: (tag: string) => boolean,
): { language: Schemas["LanguageName"]; needs: Need[] }[] {
  const byTag = new Map<string, { language: Schemas["LanguageName"]; needs: Need[] }>();
  for (const table of tables) {
    for (const { language, states } of table.languages) {
      if (!contributes(language.tag)) continue;
      const need = { table, untranslated: states.untranslated ?? 0, stale: states.stale ?? 0 };
      if (need.untranslated + need.stale === 0) continue;
      const known = byTag.get(language.tag) ?? { language, needs: [] };
      known.needs.push(need);
      byTag.set(language.tag, known);
    }
  }
  const share = ({ table, untranslated, stale }: Need) => (untranslated + stale) / Math.max(1, table.entries);
  return [...byTag.values()].map(({ language, needs }) => ({
    language,
    needs: needs.sort((a, b) => share(b) - share(a)).slice(0, MOST),
  }));
}
