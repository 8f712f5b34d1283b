import { Alert, Button, CircularProgress, MenuItem, Snackbar, TextField } from "@mui/material";
import { keepPreviousData, useInfiniteQuery, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { ask, sentenceOf, type Schemas } from "../../api/client";
import { Frame } from "../../desk/Frame";
import { useAddress } from "../../parts/useAddress";
import { useSettled } from "../../parts/useSettled";
import { loadFontFor } from "../../theme/fonts";
import { languageName, listed, t } from "../../words/words";
import { languagesOf } from "../../scope/scopeTables";
import { useTables } from "../../scope/useTables";
import type { Person } from "../../session/useSession";
import { SuggestDialog } from "./SuggestDialog";
import { TermDialog } from "./TermDialog";
import "./wordbook.css";

type Term = Schemas["Term"];

/** As many terms come at once. */
const PAGE = 200;
const STATUSES = ["", "agreed", "proposed", "avoid"] as const;

/** The wordbook: terms with their translations and the words to avoid; proposals of contributors wait in it. */
export function WordbookPage({ me }: { me: Person }) {
  const queries = useQueryClient();
  const tables = useTables();
  const [query, put] = useAddress();
  const words = query.get("words") ?? "";
  const status = STATUSES.find((one) => one === query.get("status")) ?? "";
  const product = query.get("product") ?? "";
  const wanted = useSettled(words.trim());
  const terms = useInfiniteQuery({
    queryKey: ["terms", wanted, status, product],
    queryFn: ({ pageParam, signal }) =>
      ask<Schemas["TermPage"]>(
        `/api/terms?${String(new URLSearchParams({ words: wanted, status, product, first: String(pageParam) }))}`,
        { signal },
      ),
    initialPageParam: 0,
    getNextPageParam: (last, pages) => (pages.length * PAGE < last.found ? pages.length * PAGE : undefined),
    placeholderData: keepPreviousData,
  });
  const products = useQuery({
    queryKey: ["products"],
    queryFn: ({ signal }) => ask<Schemas["ProductReply"][]>("/api/products", { signal }),
  });
  const [open, setOpen] = useState<Term | string | null>(null);
  const [suggesting, setSuggesting] = useState(false);
  const [said, setSaid] = useState<string | null>(null);
  const [told, setTold] = useState<string[]>([]);
  const picker = useRef<HTMLInputElement>(null);
  const languages = languagesOf(tables.data ?? []).map((kept) => kept.language);
  useEffect(() => {
    for (const language of languages) loadFontFor(language.script);
  });
  const pages = terms.data?.pages ?? [];
  const found = pages.flatMap((page) => page.terms);
  const first = pages[0];
  const mayPropose = me.coordinator || Object.values(me.levels).some((level) => level !== "reader");
  const failure = terms.error ?? tables.error;
  const again = () => {
    void queries.invalidateQueries({ queryKey: ["terms"] });
    void queries.invalidateQueries({ queryKey: ["check"] });
  };
  const take = async (file: File) => {
    setSaid(t("wordbook.taking", { file: file.name }));
    try {
      const done = await ask<Schemas["TermsTaken"]>(
        `/api/terms/file?${String(new URLSearchParams({ name: file.name }))}`,
        { method: "POST", bytes: file },
      );
      setSaid(t("wordbook.taken", { n: done.terms, added: done.added, filled: done.filled }));
      setTold(done.told);
    } catch (wrong) {
      setSaid(null);
      setTold([sentenceOf(wrong)]);
    }
    again();
  };
  return (
    <Frame
      title={t("wordbook.sentence", { n: first?.all ?? 0 })}
      aside={
        mayPropose && (
          <Button size="small" variant="contained" onClick={() => setOpen("")}>
            {t(me.coordinator ? "wordbook.add" : "wordbook.propose")}
          </Button>
        )
      }
    >
      <div className="wordbook">
        {failure ? (
          <Alert severity="error" action={<Button onClick={() => void terms.refetch()}>{t("retry")}</Button>}>
            {sentenceOf(failure)}
          </Alert>
        ) : !first || !tables.data ? (
          <CircularProgress size={22} aria-label={t("ledger.loading")} />
        ) : (
          <>
            <div className="asks">
              <TextField
                size="small"
                label={t("wordbook.search")}
                value={words}
                onChange={(event) => put({ words: event.target.value })}
              />
              <TextField
                select
                size="small"
                label={t("wordbook.status")}
                value={status}
                onChange={(event) => put({ status: event.target.value })}
              >
                {STATUSES.map((one) => (
                  <MenuItem key={one} value={one}>
                    {t(`wordbook.status.${one === "" ? "all" : one}`)}
                  </MenuItem>
                ))}
              </TextField>
              {(products.data?.length ?? 0) > 0 && (
                <TextField
                  select
                  size="small"
                  label={t("wordbook.product")}
                  value={products.data?.some(({ slug }) => slug === product) ? product : ""}
                  onChange={(event) => put({ product: event.target.value })}
                >
                  <MenuItem value="">{t("wordbook.everyProduct")}</MenuItem>
                  {products.data?.map((one) => (
                    <MenuItem key={one.slug} value={one.slug}>
                      {one.name}
                    </MenuItem>
                  ))}
                </TextField>
              )}
              {mayPropose && (
                <Button size="small" onClick={() => setSuggesting(true)}>
                  {t("wordbook.suggest")}
                </Button>
              )}
              {me.coordinator && (
                <>
                  <input
                    ref={picker}
                    type="file"
                    hidden
                    accept=".tbx,.csv,.xml,.xlsx"
                    aria-label={t("wordbook.take")}
                    onChange={(event) => {
                      const file = event.target.files?.[0];
                      event.target.value = "";
                      if (file) void take(file);
                    }}
                  />
                  <Button size="small" onClick={() => picker.current?.click()}>
                    {t("wordbook.take")}
                  </Button>
                </>
              )}
              <Button size="small" component="a" href="/api/terms/file/tbx" download>
                {t("wordbook.asTbx")}
              </Button>
              <Button size="small" component="a" href="/api/terms/file/csv" download>
                {t("wordbook.asCsv")}
              </Button>
            </div>
            {told.length > 0 && (
              <Alert severity="info" onClose={() => setTold([])}>
                <ul className="told">
                  {told.map((one) => (
                    <li key={one}>{one}</li>
                  ))}
                </ul>
              </Alert>
            )}
            {first.all === 0 ? (
              <div className="empty">
                <h2>{t("wordbook.empty")}</h2>
                <p className="soft">{t("wordbook.emptyWords")}</p>
              </div>
            ) : (
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
                    {found.map((term) => (
                      <TermRow
                        key={term.id}
                        term={term}
                        languages={languages}
                        onOpen={mayPropose ? () => setOpen(term) : null}
                      />
                    ))}
                  </tbody>
                </table>
                {found.length === 0 && <p className="soft">{t("wordbook.nothing", { words })}</p>}
                {terms.hasNextPage && (
                  <Button disabled={terms.isFetchingNextPage} onClick={() => void terms.fetchNextPage()}>
                    {t("wordbook.further", { n: first.found - found.length })}
                  </Button>
                )}
              </div>
            )}
          </>
        )}
      </div>
      {suggesting && (
        <SuggestDialog
          tables={tables.data ?? []}
          onPick={(picked) => {
            setSuggesting(false);
            setOpen(picked);
          }}
          onClose={() => setSuggesting(false)}
        />
      )}
      {open !== null && (
        <TermDialog
          me={me}
          term={typeof open === "string" ? null : open}
          words={typeof open === "string" ? open : ""}
          sources={sourcesOf(tables.data ?? [])}
          languages={languages}
          products={products.data ?? []}
          onDone={(sentence) => {
            setOpen(null);
            setSaid(sentence);
            again();
          }}
          onClose={() => setOpen(null)}
        />
      )}
      <Snackbar open={said !== null} autoHideDuration={6000} onClose={() => setSaid(null)} message={said} />
    </Frame>
  );
}

function TermRow(props: { term: Term; languages: Schemas["LanguageName"][]; onOpen: (() => void) | null }) {
  const { term, languages, onOpen } = props;
  const { status, forms, part, products } = term.sense;
  return (
    <tr>
      <th scope="row">
        {onOpen ? (
          <button type="button" className="open" onClick={onOpen}>
            {status === "avoid" ? <del>{term.term}</del> : term.term}
          </button>
        ) : (
          term.term
        )}
        {status === "proposed" && (
          <small className="proposed">{t("wordbook.proposedBy", { who: term.proposedBy ?? "" })}</small>
        )}
        {forms.length > 0 && <small>{t("wordbook.also", { forms: listed(forms) })}</small>}
        {(part !== "" || products.length > 0) && (
          <small>{listed([...(part ? [t(`wordbook.part.${part as "noun"}`)] : []), ...products])}</small>
        )}
        {term.note && <small>{term.note}</small>}
      </th>
      {languages.map((language) => {
        const text = term.texts[language.tag];
        return (
          <td key={language.tag} lang={language.tag} dir={language.rightToLeft ? "rtl" : "ltr"}>
            {text?.text}
            {text?.forms && text.forms.length > 0 && <small>{listed(text.forms)}</small>}
            {text && text.avoid.length > 0 && (
              <small>
                <bdi dir="ltr">{t("wordbook.not")}</bdi> <del>{listed(text.avoid)}</del>
              </small>
            )}
            {text?.proposal && (
              <small className="proposed">
                <bdi dir="ltr">{t("wordbook.proposes", { who: text.proposedBy ?? "" })}</bdi> {text.proposal}
              </small>
            )}
          </td>
        );
      })}
    </tr>
  );
}

function sourcesOf(tables: Schemas["TableReply"][]): Schemas["LanguageName"][] {
  return [...new Map(tables.map((table) => [table.source.tag, table.source])).values()];
}
