import { useQuery } from "@tanstack/react-query";
import { ask, sentenceOf, type Schemas } from "../../api/client";
import { t, when } from "../../words/words";
import type { FootnoteProps } from "./footnoteProps";
import { inOneLine } from "../../text/shapes";
import { DiffShown } from "../../text/TextShown";
import { wordDiff } from "../../text/wordDiff";
import { NOTED_MS } from "../../text/memory";

/** The story of a cell, newest first; any text that was in force can be put back. */
export function CellStory({ store, entry, language, changes, onSay }: FootnoteProps) {
  const tag = language.language.tag;
  const version = store.cell(entry, tag)?.version ?? 0;
  const story = useQuery({
    queryKey: ["story", entry, tag, version],
    queryFn: ({ signal }) =>
      ask<Schemas["StoryLine"][]>(`/api/entries/${entry}/cells/${encodeURIComponent(tag)}/story`, { signal }),
    staleTime: NOTED_MS,
  });
  if (story.isError) return <p className="wrong">{sentenceOf(story.error)}</p>;
  if (!story.data) return <p className="soft">{t("ledger.loading")}</p>;
  if (story.data.length === 0) return <p className="soft">{t("footnotes.noStory")}</p>;
  return (
    <ol className="story">
      {story.data.map((line, at) => (
        <li key={line.id}>
          <span className="soft">{when(line.at)}</span> {t(`story.${line.what as "settled"}`, { who: line.person })}
          {line.file && <span className="soft"> {t("story.fromFile", { file: line.file })}</span>}
          {line.reason && <span className={line.what === "returned" ? "wrong" : "soft"}> {line.reason}</span>}
          {line.after && (
            <span className="said" lang={tag} dir={language.language.rightToLeft ? "rtl" : "ltr"}>
              {line.before !== undefined && line.before !== line.after ? (
                <DiffShown
                  runs={wordDiff(inOneLine(line.before, line.beforeForms), inOneLine(line.after, line.afterForms))}
                />
              ) : (
                inOneLine(line.after, line.afterForms)
              )}
            </span>
          )}
          {line.canBePutBack && at > 0 && (
            <button
              type="button"
              className="putback"
              onClick={() =>
                void changes
                  .change(entry, tag, { action: "PUT_BACK", line: line.id })
                  .then((wrong) => wrong && onSay(wrong))
              }
            >
              {t("footnotes.putBack")}
            </button>
          )}
        </li>
      ))}
    </ol>
  );
}
