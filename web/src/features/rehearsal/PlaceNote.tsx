import { Link } from "react-router";
import type { Schemas } from "../../api/client";
import { ledgerAt } from "../../scope/scope";
import { t } from "../../words/words";
import { sceneFindingSaid } from "./findingWords";

/** What stands at a place that was clicked, and the way to it in the ledger. */
export function PlaceNote({ stage, place }: { stage: Schemas["Stage"]; place: number }) {
  const text = stage.texts.find((one) => one.place === place);
  if (!text) return null;
  return (
    <section className="note" aria-label={t("rehearsal.place")}>
      <h2>{text.key}</h2>
      <p lang={text.from ?? undefined} dir="auto">
        {text.lines.join(" ")}
      </p>
      {text.findings.map((finding, i) => (
        <p key={i} className="wrong">
          {sceneFindingSaid(finding)}
        </p>
      ))}
      {text.table && (
        <Link
          to={ledgerAt({
            tables: [text.table],
            languages: stage.pretend ? [] : [stage.language],
            words: text.key,
          })}
        >
          {t("rehearsal.open")}
        </Link>
      )}
    </section>
  );
}
