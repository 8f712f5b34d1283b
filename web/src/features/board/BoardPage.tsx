import { Alert, Button, CircularProgress } from "@mui/material";
import { useQueryClient } from "@tanstack/react-query";
import { useMemo } from "react";
import { Link, useSearchParams } from "react-router";
import { sentenceOf } from "../../api/client";
import { Frame } from "../../desk/Frame";
import { atMostEvery, useLive } from "../../live/live";
import { listed, t } from "../../words/words";
import { readScope, writeScope } from "../../scope/scope";
import { languagesOf, tablesOf } from "../../scope/scopeTables";
import { Choice, Choices, Picker } from "../../parts/Picker";
import { FINDINGS } from "../checks";
import { ScopeLine } from "../../scope/ScopeLine";
import { useProducts, useTables } from "../../scope/useTables";
import type { Person } from "../../session/useSession";
import { InTheWay } from "./InTheWay";
import { LeftOverTime } from "./LeftOverTime";
import { News } from "./News";
import { TheBoard } from "./TheBoard";
import type { Unit } from "./unit";
import "./board.css";

/** Tables × languages: what is left to settle, what happened, when it ends, and what stands in the way. Every number is a link to what it counts. */
export function BoardPage({ me }: { me: Person }) {
  const [query, setQuery] = useSearchParams();
  const queries = useQueryClient();
  const tables = useTables();
  const products = useProducts();
  const scope = readScope(query);
  const unit: Unit = query.get("unit") === "words" ? "words" : "entries";
  const inScope = tables.data && products.data ? tablesOf(scope, tables.data, products.data) : undefined;
  const all = languagesOf(inScope ?? []);
  const languages = scope.languages.length ? all.filter((kept) => scope.languages.includes(kept.language.tag)) : all;
  useLive(
    useMemo(
      () =>
        atMostEvery(500, () => {
          void queries.invalidateQueries({ queryKey: ["tables"] });
          void queries.invalidateQueries({ queryKey: ["board"] });
          void queries.invalidateQueries({ queryKey: [FINDINGS] });
        }),
      [queries],
    ),
  );
  const show = (next: typeof scope, by: Unit) =>
    setQuery(writeScope(next) + (by === "words" ? `${writeScope(next) ? "&" : ""}unit=words` : ""));
  const failure = (tables.data ? null : tables.error) ?? (products.data ? null : products.error);
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
            onScope={(next) => show(next, unit)}
            unit={
              <Picker label={t("board.unit")} words={t(`board.by.${unit}`)}>
                {(close) => (
                  <Choices label={t("board.unit")}>
                    {(["entries", "words"] as const).map((by) => (
                      <Choice
                        key={by}
                        words={t(`board.by.${by}`)}
                        chosen={by === unit}
                        first={by === unit}
                        onChoose={() => {
                          show(scope, by);
                          close();
                        }}
                      />
                    ))}
                  </Choices>
                )}
              </Picker>
            }
          />
        )
      }
    >
      {failure ? (
        <div className="empty">
          <Alert severity="error" action={<Button onClick={() => void tables.refetch()}>{t("retry")}</Button>}>
            {sentenceOf(failure)}
          </Alert>
        </div>
      ) : tables.data?.length === 0 ? (
        <div className="empty">
          <h2>{t("empty.noTables")}</h2>
          <p className="soft">{t("empty.noTablesWords")}</p>
          <Button variant="contained" component={Link} to="/intake">
            {t("empty.bringFile")}
          </Button>
        </div>
      ) : !tables.data || !products.data ? (
        <div className="empty" role="status">
          <CircularProgress size={22} aria-label={t("ledger.loading")} />
        </div>
      ) : !inScope ? (
        <div className="empty">
          <h2>{t("empty.noSuchTable", { table: scope.product || listed(scope.tables) })}</h2>
          <p className="soft">{t("empty.noSuchTableWords")}</p>
        </div>
      ) : (
        <>
          <TheBoard me={me} tables={inScope} languages={languages} products={products.data} unit={unit} />
          <div className="below">
            <News languages={all} />
            <LeftOverTime tables={inScope} scope={scope} languages={languages} unit={unit} />
            <InTheWay tables={inScope} scope={scope} languages={languages} />
          </div>
        </>
      )}
    </Frame>
  );
}
