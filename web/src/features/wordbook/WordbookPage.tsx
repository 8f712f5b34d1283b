import { Alert, Button, CircularProgress, Snackbar, TextField } from "@mui/material";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { useSearchParams } from "react-router";
import { ask, sentenceOf, type Schemas } from "../../api/client";
import { Frame } from "../../desk/Frame";
import { loadFontFor } from "../../theme/fonts";
import { languageName, listed, t } from "../../words/words";
import { languagesOf } from "../../scope/scopeTables";
import { useTables } from "../../scope/useTables";
import type { Person } from "../../session/useSession";
import { TermDialog } from "./TermDialog";
import "./wordbook.css";

type Term = Schemas["Term"];

/** Most terms that are shown at once; the search narrows them. */
const SHOWN = 500;

/** The wordbook: agreed terms with their translations and the words to avoid. */
export function WordbookPage({ me }: { me: Person }) {
  const queries = useQueryClient();
  const tables = useTables();
  const terms = useQuery({
    queryKey: ["terms"],
    queryFn: ({ signal }) => ask<Term[]>("/api/terms", { signal }),
  });
  const [query, setQuery] = useSearchParams();
  const words = query.get("words") ?? "";
  const [open, setOpen] = useState<Term | "new" | null>(null);
  const [said, setSaid] = useState<string | null>(null);
  const languages = languagesOf(tables.data ?? []).map((kept) => kept.language);
  useEffect(() => {
    for (const language of languages) loadFontFor(language.script);
  });
  const found = (terms.data ?? []).filter((term) => matches(term, words));
  const reviewsAny = me.coordinator || Object.values(me.levels).includes("reviewer");
  const failure = terms.error ?? tables.error;
  return (
    <Frame
      title={t("wordbook.sentence", { n: terms.data?.length ?? 0 })}
      aside={
        me.coordinator && (
          <Button size="small" variant="contained" onClick={() => setOpen("new")}>
            {t("wordbook.add")}
          </Button>
        )
      }
    >
      <div className="wordbook">
        {failure ? (
          <Alert severity="error" action={<Button onClick={() => void terms.refetch()}>{t("retry")}</Button>}>
            {sentenceOf(failure)}
          </Alert>
        ) : !terms.data || !tables.data ? (
          <CircularProgress size={22} aria-label={t("ledger.loading")} />
        ) : terms.data.length === 0 ? (
          <div className="empty">
            <h2>{t("wordbook.empty")}</h2>
            <p className="soft">{t("wordbook.emptyWords")}</p>
          </div>
        ) : (
          <>
            <TextField
              size="small"
              label={t("wordbook.search")}
              value={words}
              onChange={(event) => setQuery(event.target.value ? { words: event.target.value } : {}, { replace: true })}
            />
            <div className="terms" role="region" aria-label={t("wordbook.table")} tabIndex={0}>
              <table>
                <thead>
                  <tr>
                    <th scope="col">{t("wordbook.term")}</th>
                    {languages.map((language) => (
                      <th key={language.tag} scope="col">
                        {languageName(language)}
                      </th>
                    ))}
                  </tr>
                </thead>
                <tbody>
                  {found.slice(0, SHOWN).map((term) => (
                    <tr key={term.id}>
                      <th scope="row">
                        {reviewsAny ? (
                          <button type="button" className="open" onClick={() => setOpen(term)}>
                            {term.term}
                          </button>
                        ) : (
                          term.term
                        )}
                        {term.note && <small>{term.note}</small>}
                      </th>
                      {languages.map((language) => {
                        const text = term.texts[language.tag];
                        return (
                          <td key={language.tag} lang={language.tag} dir={language.rightToLeft ? "rtl" : "ltr"}>
                            {text?.text}
                            {text && text.avoid.length > 0 && (
                              <small>
                                <bdi dir="ltr">{t("wordbook.not")}</bdi> <del>{listed(text.avoid)}</del>
                              </small>
                            )}
                          </td>
                        );
                      })}
                    </tr>
                  ))}
                </tbody>
              </table>
              {found.length === 0 && <p className="soft">{t("wordbook.nothing", { words })}</p>}
              {found.length > SHOWN && <p className="soft">{t("wordbook.more", { n: found.length - SHOWN })}</p>}
            </div>
          </>
        )}
      </div>
      {open !== null && (
        <TermDialog
          me={me}
          term={open === "new" ? null : open}
          sources={sourcesOf(tables.data ?? [])}
          languages={languages}
          onDone={(sentence) => {
            setOpen(null);
            setSaid(sentence);
            void queries.invalidateQueries({ queryKey: ["terms"] });
            void queries.invalidateQueries({ queryKey: ["check"] });
          }}
          onClose={() => setOpen(null)}
        />
      )}
      <Snackbar open={said !== null} autoHideDuration={6000} onClose={() => setSaid(null)} message={said} />
    </Frame>
  );
}

function matches(term: Term, words: string): boolean {
  const wanted = words.trim().toLowerCase();
  return (
    wanted === "" ||
    [term.term, term.note, ...Object.values(term.texts).flatMap((text) => [text.text, ...text.avoid])].some((one) =>
      one.toLowerCase().includes(wanted),
    )
  );
}

function sourcesOf(tables: Schemas["TableReply"][]): Schemas["LanguageName"][] {
  return [...new Map(tables.map((table) => [table.source.tag, table.source])).values()];
}
