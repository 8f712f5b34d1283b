import { useRef, useState } from "react";
import { Link, useNavigate } from "react-router";
import type { Schemas } from "../../api/client";
import { count, languageName, listed, t } from "../../words/words";
import { Mark } from "../../scope/Mark";
import { ledgerAt, STATES } from "../../scope/scope";
import { left } from "../../scope/scopeTables";
import type { Person } from "../../session/useSession";
import type { Unit } from "./unit";
import { InkBar } from "./InkBar";

/** In the order in which the bar is inked: what is done first. */
const INKED = [...STATES].reverse();

/** Widths in px of the names of tables, and of the narrowest crossing that says everything. */
const HEAD_WIDTH = 200;
const LEAST_WIDTH = 112;

interface Props {
  me: Person;
  tables: Schemas["TableReply"][];
  languages: Schemas["LanguageReply"][];
  products: Schemas["ProductReply"][];
  unit: Unit;
}

/** The crossings of tables and languages; arrows move, Enter opens the ledger there. */
export function TheBoard({ me, tables, languages, products, unit }: Props) {
  const [at, setAt] = useState({ row: 0, column: 0 });
  const grid = useRef<HTMLTableElement>(null);
  const navigate = useNavigate();
  const row = Math.min(at.row, tables.length - 1);
  const column = Math.min(at.column, languages.length - 1);
  const go = (toRow: number, toColumn: number) => {
    const next = {
      row: Math.max(0, Math.min(tables.length - 1, toRow)),
      column: Math.max(0, Math.min(languages.length - 1, toColumn)),
    };
    setAt(next);
    grid.current?.querySelector<HTMLElement>(`[data-at="${next.row}-${next.column}"]`)?.focus();
  };
  const onKeyDown = (event: React.KeyboardEvent) => {
    const steps: Record<string, [number, number]> = {
      ArrowUp: [row - 1, column],
      ArrowDown: [row + 1, column],
      ArrowLeft: [row, column - 1],
      ArrowRight: [row, column + 1],
      Home: [row, 0],
      End: [row, languages.length - 1],
    };
    const to = steps[event.key];
    const table = tables[row];
    const language = languages[column];
    if (to) {
      event.preventDefault();
      go(...to);
    } else if (event.key === "Enter" && table && language && (event.target as HTMLElement).dataset.at) {
      event.preventDefault();
      void navigate(ledgerAt({ tables: [table.slug], languages: [language.language.tag] }));
    }
  };
  return (
    <div className="board">
      <div className="legend">
        {INKED.map((state) => (
          <span key={state}>
            <Mark state={state} labelled={false} /> {t(`state.${state}`)}
          </span>
        ))}
        <span className="hint">{t("board.keys")}</span>
      </div>
      <div className="crossings">
        <table
          ref={grid}
          role="grid"
          aria-label={t("board.label")}
          style={{ minWidth: HEAD_WIDTH + languages.length * LEAST_WIDTH }}
          onKeyDown={onKeyDown}
        >
          <thead>
            <tr>
              <th scope="col">
                {t("board.table")}
                <small>{me.coordinator && <Link to="/products">{t("board.products")}</Link>}</small>
              </th>
              {languages.map(({ language }) => (
                <th key={language.tag} scope="col">
                  {languageName(language)}
                  <small>{language.tag}</small>
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {tables.map((table, r) => (
              <tr key={table.slug}>
                <th scope="row">
                  {me.coordinator ? <Link to={`/tables/${table.slug}`}>{table.name}</Link> : table.name}
                  <small>
                    {t("scope.entries", { n: table.entries })} · {usedBy(table, products)}
                  </small>
                </th>
                {languages.map(({ language }, c) => {
                  const kept = table.languages.find((one) => one.language.tag === language.tag);
                  return kept ? (
                    <Crossing
                      key={language.tag}
                      table={table}
                      kept={kept}
                      unit={unit}
                      place={`${r}-${c}`}
                      current={r === row && c === column}
                      onFocus={() => setAt({ row: r, column: c })}
                      onOpen={() => void navigate(ledgerAt({ tables: [table.slug], languages: [language.tag] }))}
                    />
                  ) : (
                    <td
                      key={language.tag}
                      role="gridcell"
                      data-at={`${r}-${c}`}
                      tabIndex={r === row && c === column ? 0 : -1}
                      className="notkept"
                      onFocus={() => setAt({ row: r, column: c })}
                    >
                      {t("board.notKept")}
                    </td>
                  );
                })}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </div>
  );
}

interface CrossingProps {
  table: Schemas["TableReply"];
  kept: Schemas["LanguageReply"];
  unit: Unit;
  place: string;
  current: boolean;
  onFocus: () => void;
  onOpen: () => void;
}

function Crossing({ table, kept, unit, place, current, onFocus, onOpen }: CrossingProps) {
  const counts = unit === "words" ? kept.words : kept.states;
  const toSettle = left(kept, unit);
  const said = listed(
    INKED.filter((state) => (counts[state] ?? 0) > 0).map((state) =>
      t("counts.of", { n: counts[state] ?? 0, state: t(`state.${state}`) }),
    ),
  );
  return (
    <td
      role="gridcell"
      data-at={place}
      tabIndex={current ? 0 : -1}
      aria-label={t("board.crossing", {
        table: table.name,
        language: languageName(kept.language),
        left: toSettle,
        states: said,
      })}
      onFocus={onFocus}
      onClick={onOpen}
    >
      <span className="left">
        <b>{toSettle === 0 && table.entries > 0 ? t("board.done") : count(toSettle)}</b>
        {(kept.states.offered ?? 0) > 0 && (
          <span className="offers">{t("board.offers", { n: kept.states.offered ?? 0 })}</span>
        )}
      </span>
      <InkBar counts={counts} />
    </td>
  );
}

function usedBy(table: Schemas["TableReply"], products: Schemas["ProductReply"][]): string {
  const users = products.filter((product) => product.tables.some((one) => one.slug === table.slug));
  const first = users[0];
  if (users.length === 1 && first) return first.name;
  return users.length === 0 ? t("board.usedByNone") : t("board.usedBy", { n: users.length });
}
