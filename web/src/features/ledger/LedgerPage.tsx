import { Alert, Button, CircularProgress, Snackbar } from "@mui/material";
import { useCallback, useEffect, useRef, useState } from "react";
import { Link, useSearchParams } from "react-router";
import { sentenceOf, type Schemas } from "../../api/client";
import { Frame } from "../../app/Frame";
import { loadFontFor } from "../../theme/fonts";
import { t } from "../../words/words";
import { ExportDialog } from "../exporting/ExportDialog";
import type { Person } from "../session/useSession";
import type { Entries } from "./entries";
import { Footnotes } from "./Footnotes";
import type { Place } from "./keyboard";
import type { RowStore } from "./rowStore";
import { readScope, writeScope, type Scope } from "./scope";
import { KeysDialog, ScopeLine } from "./ScopeLine";
import { Spread, type SpreadHandle } from "./Spread";
import { useCellChanges } from "./useCellChanges";
import { useScopeEntries, useTables } from "./useLedger";

const FOOTNOTES_KEY = "mellow.footnotes.closed";

/** The ledger: a scope as a sentence, the spread, the footnotes. */
export function LedgerPage({ me }: { me: Person }) {
  const [query, setQuery] = useSearchParams();
  const tables = useTables();
  const scope = readScope(query);
  const [said, setSaid] = useState<string | null>(null);
  const sayFailure = useCallback((failure: unknown) => setSaid(sentenceOf(failure)), []);
  const [sending, setSending] = useState(false);
  const table = tables.data?.find((one) => one.slug === scope.table);
  const { query: opening, opened } = useScopeEntries(scope, sayFailure);
  const setScope = useCallback((next: Scope) => setQuery(writeScope(next)), [setQuery]);

  useEffect(() => {
    const first = tables.data?.[0];
    const known = tables.data?.find((one) => one.slug === scope.table) ?? first;
    if (known && (scope.table === "" || scope.languages.length === 0)) {
      const language = known.languages[0]?.language.tag;
      if (language) setQuery(writeScope({ ...scope, table: known.slug, languages: [language] }), { replace: true });
    }
  }, [tables.data, scope, setQuery]);

  const languages = (table?.languages ?? []).filter((kept) => scope.languages.includes(kept.language.tag));
  useEffect(() => {
    for (const { language } of languages) loadFontFor(language.script);
  });

  const failure = tables.error ?? opening.error;
  const size = opened?.entries.size ?? 0;
  return (
    <Frame
      me={me}
      title={tables.data ? <ScopeLine scope={scope} tables={tables.data} onScope={setScope} /> : null}
      aside={
        <>
          {table && opened && (
            <span>
              {size === table.entries
                ? t("ledger.all", { n: size })
                : t("ledger.some", { n: table.entries, shown: size })}
            </span>
          )}
          {table && (
            <Button size="small" variant="outlined" onClick={() => setSending(true)}>
              {t("export.open")}
            </Button>
          )}
        </>
      }
      find={scope.words}
      onFind={(words) => setScope({ ...scope, words })}
    >
      {failure ? (
        <div className="empty">
          <Alert
            severity="error"
            action={
              <Button onClick={() => void (tables.error ? tables.refetch() : opening.refetch())}>{t("retry")}</Button>
            }
          >
            {sentenceOf(failure)}
          </Alert>
        </div>
      ) : tables.data?.length === 0 ? (
        <Empty title={t("empty.noTables")} words={t("empty.noTablesWords")}>
          <Button variant="contained" component={Link} to="/intake">
            {t("empty.bringFile")}
          </Button>
        </Empty>
      ) : tables.data && scope.table && !table ? (
        <Empty title={t("empty.noSuchTable", { table: scope.table })} words={t("empty.noSuchTableWords")} />
      ) : !opened || !table ? (
        <div className="empty" role="status">
          <CircularProgress size={22} aria-label={t("ledger.loading")} />
        </div>
      ) : size === 0 ? (
        <Empty title={t("empty.nothingInScope")} words={t("empty.nothingInScopeWords")}>
          <Button variant="contained" onClick={() => setScope({ ...scope, only: [], words: "", intake: null })}>
            {t("empty.showAll")}
          </Button>
        </Empty>
      ) : (
        <Sheet
          key={query.toString()}
          me={me}
          entries={opened.entries}
          store={opened.store}
          table={table}
          languages={languages}
          onSay={setSaid}
        />
      )}
      {table && (
        <ExportDialog table={table} languages={scope.languages} open={sending} onClose={() => setSending(false)} />
      )}
      <Snackbar
        open={said !== null}
        autoHideDuration={9000}
        onClose={() => setSaid(null)}
        anchorOrigin={{ vertical: "top", horizontal: "center" }}
      >
        <Alert severity="warning" onClose={() => setSaid(null)}>
          {said}
        </Alert>
      </Snackbar>
    </Frame>
  );
}

function Empty({ title, words, children }: { title: string; words: string; children?: React.ReactNode }) {
  return (
    <div className="empty">
      <h2>{title}</h2>
      <p className="soft">{words}</p>
      {children}
    </div>
  );
}

interface SheetProps {
  me: Person;
  entries: Entries;
  store: RowStore;
  table: Schemas["TableReply"];
  languages: Schemas["LanguageReply"][];
  onSay: (sentence: string) => void;
}

function Sheet({ me, entries, store, table, languages, onSay }: SheetProps) {
  const memory = `mellow.place.${table.slug}`;
  const [place, setPlace] = useState<Place>(() => remembered(memory, entries));
  const [closed, setClosed] = useState(() => localStorage.getItem(FOOTNOTES_KEY) === "yes");
  const [keys, setKeys] = useState(false);
  const spread = useRef<SpreadHandle>(null);
  const changes = useCellChanges(store);
  const language = languages[place.column] ?? languages[0];

  useEffect(() => spread.current?.focus(), []);
  const move = useCallback(
    (to: Place) => {
      setPlace(to);
      sessionStorage.setItem(memory, String(entries.ids[to.row] ?? 0));
    },
    [memory, entries],
  );
  const close = (yes: boolean) => {
    setClosed(yes);
    localStorage.setItem(FOOTNOTES_KEY, yes ? "yes" : "no");
  };
  const entry = entries.ids[place.row];
  return (
    <>
      <Spread
        ref={spread}
        entries={entries}
        store={store}
        table={table}
        languages={languages}
        place={place}
        onPlace={move}
        changes={changes}
        onSay={onSay}
        onFind={() => document.getElementById("find")?.focus()}
        onKeys={() => setKeys(true)}
        onLeave={() => document.querySelector<HTMLElement>(closed ? ".picker" : ".footnotes")?.focus()}
      />
      {closed ? (
        <button type="button" className="reopen" onClick={() => close(false)}>
          {t("footnotes.open")}
        </button>
      ) : (
        language &&
        entry !== undefined && (
          <Footnotes
            store={store}
            entry={entry}
            language={language}
            me={me}
            changes={changes}
            onSay={onSay}
            onAmend={(offer, text) => spread.current?.amend(offer, text)}
            onClose={() => close(true)}
          />
        )
      )}
      <KeysDialog open={keys} onClose={() => setKeys(false)} />
    </>
  );
}

/** The place where one was in this table before a reload, if that entry is still in the scope. */
function remembered(memory: string, entries: Entries): Place {
  const id = Number(sessionStorage.getItem(memory));
  const row = id ? entries.ids.indexOf(id) : -1;
  return { row: Math.max(0, row), column: 0 };
}
