import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { ask, type Schemas } from "../../api/client";
import { count, languageName, t } from "../../words/words";
import { Mark } from "../../scope/Mark";
import { ledgerAt, writeScope, type CellState, type Scope } from "../../scope/scope";
import { useFindingCounts } from "../checks";

/** What holds work up, the most urgent first: what went stale unnoticed, what waits for an answer, what came back. */
const HINDRANCES = ["stale", "offered", "returned", "untranslated"] as const satisfies CellState[];

interface Props {
  tables: Schemas["TableReply"][];
  scope: Scope;
  languages: Schemas["LanguageReply"][];
}

/** What stands in the way of delivering these tables: a line per kind, the language with the most first. */
export function InTheWay({ tables, scope, languages }: Props) {
  const kinds = HINDRANCES.map((state) => {
    const found = languages
      .map((kept) => ({ language: kept.language, n: kept.states[state] ?? 0 }))
      .filter((one) => one.n > 0)
      .sort((a, b) => b.n - a.n);
    return { state, found, all: found.reduce((sum, one) => sum + one.n, 0) };
  }).filter((kind) => kind.all > 0);
  const at = writeScope(scope);
  const broken = useFindingCounts(at).data?.stopped ?? 0;
  const seen = { ...scope, languages: languages.map(({ language }) => language.tag), only: [], check: "scene" };
  const unfit = useUnfit(seen);
  return (
    <section aria-labelledby="way" tabIndex={0}>
      <h2 id="way">{t("board.way")}</h2>
      {kinds.length === 0 && broken === 0 && unfit === 0 && (
        <p className="soft">{t(tables.length ? "board.clear" : "empty.noTables")}</p>
      )}
      <ul className="kinds">
        {broken > 0 && (
          <li>
            <span className="broken" aria-hidden="true" />
            <div>
              <Link to={`/checks${at ? `?${at}` : ""}`} className="all">
                {t("way.broken", { n: broken })}
              </Link>
            </div>
          </li>
        )}
        {unfit > 0 && (
          <li>
            <span className="broken" aria-hidden="true" />
            <div>
              <Link to={ledgerAt(seen)} className="all">
                {t("way.unfit", { n: unfit })}
              </Link>
            </div>
          </li>
        )}
        {kinds.map(({ state, found, all }) => (
          <li key={state}>
            <Mark state={state} labelled={false} />
            <div>
              <Link
                to={ledgerAt({ ...scope, languages: found.map((one) => one.language.tag), only: [state] })}
                className="all"
              >
                {t(`way.${state}`, { n: all })}
              </Link>
              <span className="each">
                {found.map(({ language, n }) => (
                  <Link key={language.tag} to={ledgerAt({ ...scope, languages: [language.tag], only: [state] })}>
                    {languageName(language)} {count(n)}
                  </Link>
                ))}
              </span>
            </div>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** How many entries of a scope have something to mend where they are shown. */
function useUnfit(scope: Scope): number {
  const query = writeScope(scope);
  const asked = useQuery({
    queryKey: ["tables", "unfit", query],
    queryFn: ({ signal }) => ask<Schemas["ScopeReply"]>(`/api/scope?${query}`, { signal }),
    enabled: scope.languages.length > 0,
    staleTime: 10_000,
  });
  return asked.data?.deltas.length ?? 0;
}
