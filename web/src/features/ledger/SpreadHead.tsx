import type { Schemas } from "../../api/client";
import { languageName, t } from "../../words/words";
import { Mark } from "../../scope/Mark";
import { left } from "../../scope/scopeTables";
import { useSheet } from "./sheetModel";
import type { Columns, Spot } from "./useColumns";
import { NARROWEST, type View } from "./useView";

const STEP = 24;

/** The heads of the pages: languages with what is left in each, widths to be dragged, columns to be left out. */
export function SpreadHead({ columns }: { columns: Columns }) {
  const { tables, languages, view, onView } = useSheet();
  const single = languages.length === 1;
  const table = tables[0];
  return (
    <div
      className="head"
      role="row"
      aria-rowindex={1}
      style={{ gridTemplateColumns: columns.template, minWidth: columns.width }}
    >
      <div
        role="columnheader"
        aria-colindex={1}
        className="source"
        style={columns.spots?.[0] && { width: columns.spots[0].insetInlineStart }}
      >
        {table && t("ledger.source", { language: languageName(table.source) })}
        <span className="limit">{t("ledger.limit")}</span>
        <Edge column="" name={t("view.source")} view={view} onView={onView} />
      </div>
      {single && <div className="gutter" role="presentation" />}
      {columns.shown.map((column) => {
        const kept = languages[column];
        return (
          kept && <ColumnHead key={kept.language.tag} kept={kept} column={column} spot={columns.spots?.[column]} />
        );
      })}
    </div>
  );
}

function ColumnHead({ kept, column, spot }: { kept: Schemas["LanguageReply"]; column: number; spot?: Spot }) {
  const { tables, languages, view, onView, onHide } = useSheet();
  const single = languages.length === 1;
  const { tag, ownName } = kept.language;
  const name = languageName(kept.language);
  const inScope = tables.reduce((sum, one) => sum + one.entries, 0);
  return (
    <div
      role="columnheader"
      aria-colindex={column + 2}
      className="cell"
      style={spot ?? (single ? undefined : { gridColumn: column + 2 })}
    >
      <span>
        {name}
        {single && (
          <>
            {" · "}
            <span lang={tag}>{ownName}</span>
          </>
        )}
      </span>
      <span className="counts">
        {single ? (
          (["untranslated", "stale", "offered"] as const).map((state) => (
            <span key={state}>
              <Mark state={state} labelled={false} /> {t(`counts.${state}`, { n: kept.states[state] ?? 0 })}
            </span>
          ))
        ) : (
          <>
            <span>
              {t("counts.left", {
                n: tables.length === 1 ? inScope - (kept.states.settled ?? 0) : left(kept, "entries"),
              })}
            </span>
            <button
              type="button"
              className="hide"
              onKeyDown={(event) => event.stopPropagation()}
              aria-label={t("view.hide", { language: name })}
              onClick={() => onHide(tag)}
            >
              ×
            </button>
          </>
        )}
      </span>
      {!single && <Edge column={tag} name={name} view={view} onView={onView} />}
    </div>
  );
}

interface EdgeProps {
  /** The tag of the column's language; "" is the source. */
  column: string;
  name: string;
  view: View;
  onView: (part: Partial<View>) => void;
}

function Edge({ column, name, view, onView }: EdgeProps) {
  const resize = (head: HTMLElement, by: number) => {
    const wide = (head.parentElement as HTMLElement).offsetWidth + by;
    onView({ widths: { ...view.widths, [column]: Math.max(NARROWEST, Math.round(wide)) } });
  };
  return (
    <div
      className="edge"
      role="separator"
      aria-orientation="vertical"
      aria-label={t("view.resize", { language: name })}
      aria-valuenow={view.widths[column] ?? 0}
      aria-valuemin={NARROWEST}
      tabIndex={0}
      onKeyDown={(event) => {
        event.stopPropagation();
        if (event.key === "ArrowLeft") resize(event.currentTarget, -STEP);
        if (event.key === "ArrowRight") resize(event.currentTarget, STEP);
      }}
      onPointerDown={(event) => event.currentTarget.setPointerCapture(event.pointerId)}
      onPointerMove={(event) => {
        if (event.currentTarget.hasPointerCapture(event.pointerId) && event.movementX !== 0) {
          resize(event.currentTarget, event.movementX);
        }
      }}
    />
  );
}
