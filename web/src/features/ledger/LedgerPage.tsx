import { Alert, Button, CircularProgress, Snackbar } from "@mui/material";
import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useState } from "react";
import { Link, useSearchParams } from "react-router";
import { sentenceOf } from "../../api/client";
import { Frame } from "../../desk/Frame";
import { loadFontFor } from "../../theme/fonts";
import { listed, t } from "../../words/words";
import { DropOnTable } from "../intake";
import { ExportDialog } from "../exporting";
import { EntryDialog } from "../entry";
import { undoing } from "../../sheet/undoing";
import { ScopeMenu } from "../scopes";
import type { Person } from "../../session/useSession";
import { EVERYTHING, readScope, writeScope, type Scope } from "../../scope/scope";
import { languagesOf, tablesOf } from "../../scope/scopeTables";
import { ScopeLine } from "../../scope/ScopeLine";
import { Sheet } from "./Sheet";
import { useProducts, useTables } from "../../scope/useTables";
import { useScopeEntries } from "./useScopeEntries";
import { useView } from "./useView";
import { ViewMenu } from "./ViewMenu";

/** The ledger: a scope as a sentence, the spread, the footnotes. */
export function LedgerPage({ me }: { me: Person }) {
  const [query, setQuery] = useSearchParams();
  const queries = useQueryClient();
  const tables = useTables();
  const products = useProducts();
  const scope = readScope(query);
  const address = writeScope(scope);
  const [said, setSaid] = useState<string | null>(null);
  const sayFailure = useCallback((failure: unknown) => setSaid(sentenceOf(failure)), [setSaid]);
  const [sending, setSending] = useState(false);
  const [creating, setCreating] = useState(false);
  const [view, setView] = useView();
  const inScope = tables.data && products.data ? tablesOf(scope, tables.data, products.data) : undefined;
  const { query: opening, opened } = useScopeEntries(scope, inScope ?? [], sayFailure);
  const setScope = useCallback((next: Scope) => setQuery(writeScope(next)), [setQuery]);
  const readAgain = useCallback(() => void queries.resetQueries({ queryKey: ["scope", address] }), [queries, address]);

  useEffect(() => {
    if (scope.languages.length > 0 || !tables.data || !inScope) return;
    const nothingSaid = scope.tables.length === 0 && scope.product === "";
    const known = nothingSaid ? tables.data.slice(0, 1) : inScope;
    const language = languagesOf(known)[0]?.language.tag;
    if (language) {
      const named = nothingSaid ? known.map((table) => table.slug) : scope.tables;
      setQuery(writeScope({ ...scope, tables: named, languages: [language] }), { replace: true });
    }
  }, [tables.data, inScope, scope, setQuery]);

  const languages = languagesOf(inScope ?? []).filter((kept) => scope.languages.includes(kept.language.tag));
  useEffect(() => {
    for (const { language } of languages) loadFontFor(language.script);
  });

  // What is here stays in sight when reading it again fails: somebody may be typing in it.
  const failure =
    (tables.data ? null : tables.error) ?? (products.data ? null : products.error) ?? (opened ? null : opening.error);
  const size = opened?.entries.size ?? 0;
  const all = (inScope ?? []).reduce((sum, table) => sum + table.entries, 0);
  const only = inScope?.length === 1 ? inScope[0] : undefined;
  return (
    <Frame
      title={
        tables.data &&
        products.data && <ScopeLine scope={scope} tables={tables.data} products={products.data} onScope={setScope} />
      }
      aside={
        <>
          {inScope && opened && (
            <span>{size === all ? t("ledger.all", { n: size }) : t("ledger.some", { n: all, shown: size })}</span>
          )}
          {inScope && (
            <ScopeMenu
              me={me}
              scope={scope}
              tables={inScope}
              entries={opened?.entries ?? null}
              onSay={setSaid}
              onEntries={readAgain}
            />
          )}
          <ViewMenu view={view} sections={opened?.entries.sections ?? []} onView={setView} />
          {only && (
            <Button size="small" variant="outlined" onClick={() => setSending(true)}>
              {t("export.open")}
            </Button>
          )}
        </>
      }
      scope={scope}
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
      ) : tables.data && products.data && !inScope ? (
        <Empty
          title={t("empty.noSuchTable", { table: scope.product || listed(scope.tables) })}
          words={t("empty.noSuchTableWords")}
        />
      ) : !opened || !inScope ? (
        <div className="empty" role="status">
          <CircularProgress size={22} aria-label={t("ledger.loading")} />
        </div>
      ) : all === 0 && only ? (
        <Empty title={t("empty.noEntries", { table: only.name })} words={t("empty.noEntriesWords")}>
          <Button variant="contained" component={Link} to="/intake">
            {t("empty.bringFile")}
          </Button>{" "}
          {me.coordinator && (
            <Button variant="outlined" onClick={() => setCreating(true)}>
              {t("empty.firstEntry")}
            </Button>
          )}
        </Empty>
      ) : size === 0 ? (
        <Empty title={t("empty.nothingInScope")} words={t("empty.nothingInScopeWords")}>
          <Button
            variant="contained"
            onClick={() =>
              setScope({
                ...EVERYTHING,
                tables: scope.tables,
                product: scope.product,
                languages: scope.languages,
                by: scope.by,
              })
            }
          >
            {t("empty.showAll")}
          </Button>
        </Empty>
      ) : (
        <Sheet
          key={`${address} ${query.get("entry") ?? ""}`}
          me={me}
          scope={address}
          view={view}
          onView={setView}
          onHide={(tag) => setScope({ ...scope, languages: scope.languages.filter((one) => one !== tag) })}
          entries={opened.entries}
          store={opened.store}
          tables={inScope}
          languages={languages}
          at={Number(query.get("entry")) || 0}
          onSay={setSaid}
          onEntries={readAgain}
        />
      )}
      {only && creating && (
        <EntryDialog
          table={only.slug}
          row={null}
          after={null}
          onDone={(changed) => {
            undoing.did({ change: changed.change, entries: changed.entries });
            setCreating(false);
            void queries.invalidateQueries({ queryKey: ["tables"] });
            readAgain();
          }}
          onClose={() => setCreating(false)}
        />
      )}
      {only && <DropOnTable table={only} />}
      {only && sending && (
        <ExportDialog table={only} languages={scope.languages} only={scope.only} onClose={() => setSending(false)} />
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
