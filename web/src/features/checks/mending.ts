import { ask, type Schemas } from "../../api/client";
import { MAIN, type Forms } from "../../text/shapes";
import { t } from "../../words/words";

/** Puts mended texts forward as one change: settled where one may, else offered. */
export async function mendCells(texts: Schemas["MendedText"][]): Promise<Schemas["Many"]> {
  return await ask<Schemas["Many"]>("/api/cells/changes", {
    method: "POST",
    json: {
      action: "PUT_FORWARD",
      meaningConfirmed: false,
      cells: texts.map(({ entry, language, version, after }) => ({ entry, language, version, ...spelled(after) })),
    },
  });
}

function spelled(forms: Forms): { text: string } | { forms: Forms } {
  const names = Object.keys(forms);
  return names.length === 1 && names[0] === MAIN ? { text: forms[MAIN] ?? "" } : { forms };
}

/** What came of it, in a sentence. */
export function mendedSaid(done: Schemas["Many"], of: number): string {
  return done.refusedInAll > 0
    ? t("checks.mendedSome", { n: done.changed, of, why: done.refused[0]?.sentence ?? "" })
    : t("checks.mended", { n: done.changed });
}
