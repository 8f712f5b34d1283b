import { Alert, Button, CircularProgress, Snackbar } from "@mui/material";
import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useMemo, useState } from "react";
import { useSearchParams } from "react-router";
import { ask, sentenceOf, type Schemas } from "../../api/client";
import { Frame } from "../../desk/Frame";
import { atMostEvery, useLive } from "../../live/live";
import { later } from "../../parts/later";
import { ScopeLine } from "../../scope/ScopeLine";
import { readScope, writeScope } from "../../scope/scope";
import { languagesOf, tablesOf } from "../../scope/scopeTables";
import { useProducts, useTables } from "../../scope/useTables";
import type { Person } from "../../session/useSession";
import { loadFontFor } from "../../theme/fonts";
import { count, listed, percent, t } from "../../words/words";
import { kindName, weightName } from "./kinds";
import { PlaceList } from "./PlaceList";
import { catchingUp, FINDINGS, useFindingCounts } from "./useFindings";
import "./checks.css";

const SettingsDialog = later(async () => (await import("./SettingsDialog")).SettingsDialog);

/** What would break in the products, by kind: how often, where, and what mends it. */
export function ChecksPage({ me }: { me: Person }) {
  const [query, setQuery] = useSearchParams();
  const queries = useQueryClient();
  const tables = useTables();
  const products = useProducts();
  const scope = { ...readScope(query), check: "" };
  const address = writeScope(scope);
  const inScope = tables.data && products.data ? tablesOf(scope, tables.data, products.data) : undefined;
  const languages = languagesOf(inScope ?? []);
  const counts = useFindingCounts(address);
  const [settings, setSettings] = useState(false);
  const [said, setSaid] = useState<{ words: string; change?: number } | null>(null);
  useLive(useMemo(() => atMostEvery(500, () => void queries.invalidateQueries({ queryKey: [FINDINGS] })), [queries]));
  useEffect(() => {
    for (const { language } of languages) loadFontFor(language.script);
  });
  const kinds = [...(counts.data?.kinds ?? [])].sort(worstFirst);
  const asked = query.get("kind") ?? "";
  const kind = kinds.find((one) => one.kind === asked) ?? kinds.find((one) => one.stops + one.minds > 0);
  const at = (name: string) => `${address}${address ? "&" : ""}kind=${name}`;
  const undo = (change: number) => {
    ask<unknown>(`/api/changes/${change}/undo`, { method: "POST" })
      .then(() => setSaid({ words: t("checks.undone") }))
      .catch((failure: unknown) => setSaid({ words: sentenceOf(failure) }))
      .finally(() => void queries.invalidateQueries({ queryKey: [FINDINGS] }));
  };
  const failure = (tables.data ? null : tables.error) ?? (counts.data ? null : counts.error);
  return (
    <Frame
      scope={scope}
      title={
        tables.data &&
        products.data && (
          <ScopeLine
            scope={scope}
            tables={tables.data}
            products={products.data}
            onScope={(next) => setQuery(`${writeScope(next)}${asked ? `&kind=${asked}` : ""}`)}
            sentence="scope.checked"
          />
        )
      }
      aside={counts.data && <Looked counts={counts.data} me={me} scope={address} />}
    >
      {failure ? (
        <div className="empty">
          <Alert severity="error" action={<Button onClick={() => void counts.refetch()}>{t("retry")}</Button>}>
            {sentenceOf(failure)}
          </Alert>
        </div>
      ) : tables.data && products.data && !inScope ? (
        <div className="empty">
          <h2>{t("empty.noSuchTable", { table: scope.product || listed(scope.tables) })}</h2>
          <p className="soft">{t("empty.noSuchTableWords")}</p>
        </div>
      ) : !counts.data ? (
        <div className="empty" role="status">
          <CircularProgress size={22} aria-label={t("ledger.loading")} />
        </div>
      ) : (
        <div className="breaking">
          <nav className="kinds" aria-label={t("checks.kinds")} tabIndex={0}>
            {kinds.map((one) => (
              <button
                key={one.kind}
                type="button"
                aria-current={one.kind === kind?.kind}
                onClick={() => setQuery(at(one.kind))}
              >
                <b>{kindName(one.kind)}</b>
                <span className="n">{count(one.stops + one.minds)}</span>
                <small className={one.stops > 0 ? "wrong" : "soft"}>
                  {weightName(one.stops > 0 ? "stop" : one.usually)}
                </small>
              </button>
            ))}
            <Button variant="outlined" size="small" onClick={() => setSettings(true)}>
              {t("checks.settings")}
            </Button>
          </nav>
          {kind ? (
            <PlaceList
              key={`${address} ${kind.kind}`}
              me={me}
              scope={address}
              kind={kind.kind}
              languages={languages}
              onSay={(words, change) => setSaid({ words, change })}
            />
          ) : (
            <div className="empty">
              <h2>{t("checks.noneTitle")}</h2>
              <p className="soft">{t("checks.noneWords")}</p>
            </div>
          )}
        </div>
      )}
      {settings && inScope && (
        <SettingsDialog me={me} tables={inScope} products={products.data ?? []} onClose={() => setSettings(false)} />
      )}
      <Snackbar open={said !== null} autoHideDuration={15_000} onClose={() => setSaid(null)}>
        <Alert
          severity="info"
          onClose={() => setSaid(null)}
          action={
            said?.change === undefined ? undefined : (
              <Button size="small" onClick={() => undo(said.change ?? 0)}>
                {t("checks.undo")}
              </Button>
            )
          }
        >
          {said?.words}
        </Alert>
      </Snackbar>
    </Frame>
  );
}

/** Kinds that stop something first, then the most; kinds of which nothing is found last. */
function worstFirst(a: Schemas["KindCount"], b: Schemas["KindCount"]): number {
  return Number(b.stops > 0) - Number(a.stops > 0) || Number(found(b)) - Number(found(a));
}

function found(one: Schemas["KindCount"]): boolean {
  return one.stops + one.minds > 0;
}

/** How much was found in how many texts, and how far looking again is. */
function Looked({ counts, me, scope }: { counts: Schemas["FindingCounts"]; me: Person; scope: string }) {
  const queries = useQueryClient();
  const { again } = counts;
  const tell = (what: "stop" | "go-on") => {
    void ask(`/api/findings/again/${what}`, { method: "POST", json: { scope } }).finally(() =>
      queries.invalidateQueries({ queryKey: [FINDINGS] }),
    );
  };
  return (
    <span className="looked">
      <span>{t("checks.summary", { n: counts.toMend, texts: counts.texts })}</span>
      {catchingUp(counts) && (
        <span role="status">
          {t("checks.catchingUp", { percent: percent(again.total > 0 ? (100 * again.done) / again.total : 0) })}
          {me.coordinator && (
            <Button size="small" onClick={() => tell("stop")}>
              {t("checks.stop")}
            </Button>
          )}
        </span>
      )}
      {again.stopped > 0 && (
        <span role="status">
          {t("checks.stopped", { n: again.stopped })}
          {me.coordinator && (
            <Button size="small" onClick={() => tell("go-on")}>
              {t("checks.goOn")}
            </Button>
          )}
        </span>
      )}
    </span>
  );
}
