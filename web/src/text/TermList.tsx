import type { Schemas } from "../api/client";
import { t } from "../words/words";

/** Agreed terms that stand in a source, with what to say for them and what not. */
export function TermList({ terms, language }: { terms: Schemas["TermHit"][]; language: string }) {
  if (terms.length === 0) return null;
  return (
    <ul className="terms" aria-label={t("terms.title")}>
      {terms.map((term) => (
        <li key={term.term} title={term.note}>
          <b>{term.term}</b> <span aria-hidden="true">→</span> <bdi lang={language}>{term.text || t("terms.none")}</bdi>
          {term.avoid.length > 0 && (
            <span className="soft"> · {t("terms.avoid", { words: term.avoid.join("”, “") })}</span>
          )}
          {term.note && <small className="soft"> {term.note}</small>}
        </li>
      ))}
    </ul>
  );
}
