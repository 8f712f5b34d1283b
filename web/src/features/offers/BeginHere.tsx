import { Link } from "react-router";
import type { Schemas } from "../../api/client";
import { languageName, t } from "../../words/words";
import { ledgerAt } from "../../scope/scope";
import { contributesIn, type Person } from "../../session/useSession";
import { whereToBegin } from "./whereToBegin";

/** Where help is needed most, and what happens to what one writes: for who is new here. */
export function BeginHere({ me, tables }: { me: Person; tables: Schemas["TableReply"][] }) {
  const languages = whereToBegin(tables, (tag) => contributesIn(me, tag));
  return (
    <div className="begin">
      <h2>{t("begin.title")}</h2>
      <ol>
        <li>{t("begin.one")}</li>
        <li>{t("begin.two")}</li>
        <li>{t("begin.three")}</li>
      </ol>
      {languages.length === 0 && <p>{t("begin.nothing")}</p>}
      {languages.map(({ language, needs }) => (
        <section key={language.tag}>
          <h3>{t("begin.in", { language: languageName(language) })}</h3>
          <ul>
            {needs.map(({ table, untranslated, stale }) => (
              <li key={table.slug}>
                <b>{table.name}</b>{" "}
                <span className="soft">{t("begin.left", { n: untranslated, of: table.entries })}</span>{" "}
                {untranslated > 0 && (
                  <Link
                    to={ledgerAt({
                      tables: [table.slug],
                      languages: [language.tag],
                      only: ["untranslated"],
                      by: "short",
                    })}
                  >
                    {t("begin.short")}
                  </Link>
                )}
                {stale > 0 && (
                  <>
                    {" · "}
                    <Link to={ledgerAt({ tables: [table.slug], languages: [language.tag], only: ["stale"] })}>
                      {t("begin.stale", { n: stale })}
                    </Link>
                  </>
                )}
              </li>
            ))}
          </ul>
        </section>
      ))}
    </div>
  );
}
