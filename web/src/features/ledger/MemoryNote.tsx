import { sentenceOf } from "../../api/client";
import { count, listed, percent, t } from "../../words/words";
import type { FootnoteProps } from "./footnoteProps";
import { letterAt, useMemory } from "../../text/memory";
import { formsOf, inOneLine } from "../../text/shapes";
import { DiffShown, TextShown } from "../../text/TextShown";
import { wordDiff } from "../../text/wordDiff";

/** What was settled for the same or a similar source, with letters to take it by. */
export function MemoryNote({ store, entry, language, onTake }: FootnoteProps) {
  const tag = language.language.tag;
  const memory = useMemory(entry, tag);
  const source = store.row(entry)?.source ?? "";
  if (memory.isError) return <p className="wrong">{sentenceOf(memory.error)}</p>;
  if (!memory.data) return <p className="soft">{t("ledger.loading")}</p>;
  if (memory.data.length === 0) return <p className="soft">{t("memory.none")}</p>;
  return (
    <ol className="memory">
      {memory.data.map((hit, at) => (
        <li key={`${hit.entry} ${hit.unit}`}>
          <span className="percent" title={t("memory.percent", { share: percent(hit.percent) })}>
            {count(hit.percent)}
          </span>
          <span className="said">
            <span title={`${hit.table} · ${hit.key}`}>
              {hit.percent === 100 ? (
                <TextShown text={hit.source} />
              ) : (
                <DiffShown runs={wordDiff(hit.source, source)} />
              )}
            </span>
            <span aria-hidden="true"> → </span>
            <bdi lang={tag} dir={language.language.rightToLeft ? "rtl" : "ltr"}>
              <TextShown text={inOneLine(hit.text, hit.forms)} />
            </bdi>
            {hit.sameContext && <small className="soft"> {t("memory.sameContext")}</small>}
            {hit.adapted.length > 0 && (
              <small className="soft">
                {" "}
                {t("memory.adapted", {
                  what: listed(hit.adapted.map(({ from = "", to = "" }) => t("memory.instead", { from, to }))),
                })}
              </small>
            )}
          </span>
          <button
            type="button"
            className="letter"
            aria-label={t("memory.take", { letter: letterAt(at), text: hit.text })}
            // The editor must not be left by the press.
            onMouseDown={(event) => event.preventDefault()}
            onClick={() => onTake(formsOf(hit.text, hit.forms))}
          >
            {letterAt(at)}
          </button>
        </li>
      ))}
    </ol>
  );
}
