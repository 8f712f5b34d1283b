import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { ask, sentenceOf, type Schemas } from "../../api/client";
import { nameOfTag, t, when } from "../../words/words";
import { Mark } from "../../scope/Mark";
import { ledgerAt, type CellState, type Scope } from "../../scope/scope";

type Line = Schemas["NewsLine"];

/** Which mark stands before a kind of news, and which scope shows what it counts. */
const KINDS: Record<string, { mark: CellState; only: CellState[] }> = {
  settled: { mark: "settled", only: [] },
  amended: { mark: "settled", only: [] },
  offered: { mark: "offered", only: ["offered"] },
  returned: { mark: "returned", only: ["returned"] },
  pencilled: { mark: "pencilled", only: ["pencilled"] },
  still_holds: { mark: "settled", only: [] },
  cleared: { mark: "untranslated", only: [] },
  source_rewritten: { mark: "stale", only: [] },
  went_stale: { mark: "stale", only: ["stale"] },
  taken_in: { mark: "untranslated", only: [] },
  added: { mark: "untranslated", only: [] },
  asked: { mark: "untranslated", only: [] },
  answered: { mark: "untranslated", only: [] },
};

/** What others did since one was last here; every line leads to it. */
export function News({ languages }: { languages: Schemas["LanguageReply"][] }) {
  const news = useQuery({
    queryKey: ["board", "news"],
    queryFn: ({ signal }) => ask<Schemas["NewsReply"]>("/api/board/news", { signal }),
  });
  const nameOf = (tag: string) => nameOfTag(tag, languages);
  return (
    <section aria-labelledby="news" tabIndex={0}>
      <h2 id="news">{t("board.news")}</h2>
      {news.isError && <p className="wrong">{sentenceOf(news.error)}</p>}
      {news.data?.lines.length === 0 && <p className="soft">{t("board.noNews", { when: when(news.data.since) })}</p>}
      <ul className="lines">
        {news.data?.lines.map((line, at) => (
          <li key={at}>
            <Mark state={KINDS[line.what]?.mark ?? "settled"} labelled={false} />
            <Link to={ledgerAt(scopeOf(line, news.data.since, languages))}>
              {line.language ? `${nameOf(line.language)}: ` : `${line.tableName}: `}
              {t(`news.${line.what as "settled"}`, { n: line.amount })}
              {line.language ? ` ${t("news.in", { table: line.tableName })}` : ""}
              {line.people > 1 ? `, ${t("news.people", { n: line.people })}` : `, ${line.person}`}
            </Link>
            <span className="soft">{when(line.at)}</span>
          </li>
        ))}
      </ul>
    </section>
  );
}

function scopeOf(line: Line, since: string, languages: Schemas["LanguageReply"][]): Partial<Scope> {
  const only = KINDS[line.what]?.only ?? [];
  const shown = line.language ? [line.language] : languages.map((kept) => kept.language.tag);
  const scope = { tables: [line.table], languages: shown, only };
  if (line.what === "asked") return { tables: [line.table], languages: shown.slice(0, 1), asked: true };
  if (line.intake !== undefined) return { ...scope, only: [], intake: line.intake };
  return only.length ? scope : { ...scope, since };
}
