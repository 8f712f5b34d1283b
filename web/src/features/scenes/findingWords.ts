import type { Schemas } from "../../api/client";
import { listed, nameOfTag, t } from "../../words/words";

/** What is wrong at a place, in a sentence. */
export function sceneFindingSaid({ code, values }: Schemas["SceneFinding"]): string {
  const n = (name: string) => Number(values[name] ?? 0);
  const word = (name: string) => String(values[name] ?? "");
  switch (code) {
    case "too-quick":
      return t("rehearsal.finding.quick", { seconds: n("seconds"), needed: n("needed") });
    case "asset-missing":
      return t("rehearsal.finding.asset");
    case "too-wide":
      if (n("lines") > 1) {
        return t("rehearsal.finding.wideLine", { by: n("by"), line: n("line"), width: n("width"), most: n("most") });
      }
      return t("rehearsal.finding.wide", { by: n("by"), width: n("width"), most: n("most") });
    case "too-many-lines":
      return t("rehearsal.finding.lines", { n: n("lines"), most: n("most") });
    case "letters-missing":
      return t("rehearsal.finding.letters", {
        font: word("font"),
        letters: listed((values.letters as string[]).map((one) => `“${one}”`)),
      });
    case "borrowed":
      return t("rehearsal.finding.borrowed", { language: nameOfTag(word("language")) });
    case "stale":
      return t("rehearsal.finding.stale");
    case "no-value":
      return t("rehearsal.finding.value", { placeholder: word("placeholder") });
    default:
      return t("rehearsal.finding.entry", { key: word("key") });
  }
}
