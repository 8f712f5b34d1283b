import { memo, useSyncExternalStore } from "react";
import type { Schemas } from "../../api/client";
import { outbox } from "../../sheet/outbox/outbox";
import { languageName, t } from "../../words/words";
import { AssetEditor, isPicture } from "../../sheet/AssetEditor";
import { Blockers } from "./Blockers";
import { CellEditor, type EditEnd } from "../../sheet/CellEditor";
import { cellShown } from "../../sheet/cellShown";
import { placeholdersIn } from "../../text/guarding";
import { Mark } from "../../scope/Mark";
import type { CellView, RowStore } from "../../sheet/rowStore";
import { fieldsOf, inOneLine, type Forms } from "../../text/shapes";
import { DiffShown, TextShown } from "../../text/TextShown";
import type { Editing } from "../../sheet/useEditing";
import { wordDiff } from "../../text/wordDiff";

interface Props {
  id: number;
  index: number;
  store: RowStore;
  languages: Schemas["LanguageReply"][];
  /** Tags of the languages of each table, by its name in addresses; needed where several tables are shown. */
  keptBy: Map<string, Set<string>>;
  /** The column of the cursor when it is in this row, else -1. */
  cursor: number;
  /** The chosen columns of this row, -1 when none is chosen beside the current cell. */
  chosenFrom: number;
  chosenTo: number;
  /** Whether spaces and line breaks are shown as signs. */
  signs: boolean;
  editing: Editing | null;
  onPoint: (index: number, column: number, extend: boolean) => void;
  onOpen: (index: number, column: number) => void;
  onEnd: (forms: Forms, end: EditEnd) => void;
  onTake: (letter: string) => void;
}

/** Where the mouse was pressed last. */
let pressedAt = { x: 0, y: 0 };
const DRAGGED_PX = 4;

/** Whether the mouse moved since it was pressed; cells that scroll under a still mouse are not chosen by it. */
function isDragged({ clientX, clientY }: { clientX: number; clientY: number }): boolean {
  return Math.max(Math.abs(clientX - pressedAt.x), Math.abs(clientY - pressedAt.y)) >= DRAGGED_PX;
}

/** The id of a cell's element, for what follows the cursor. */
export function cellId(row: number, column: number): string {
  return `cell-${row}-${column}`;
}

/** One entry: its source on the left page, its texts on the right. Drawn again only when it changes. */
export const SpreadRow = memo(function SpreadRow({
  id,
  index,
  store,
  languages,
  keptBy,
  cursor,
  chosenFrom,
  chosenTo,
  signs,
  editing,
  onPoint,
  onOpen,
  onEnd,
  onTake,
}: Props) {
  useSyncExternalStore(
    (listener) => store.subscribe(id, listener),
    () => store.version(id),
  );
  const row = store.row(id);
  const single = languages.length === 1;
  const inSource =
    editing && row ? placeholdersIn(row.source).map(({ start, end }) => row.source.slice(start, end)) : undefined;
  const stale = languages.some((language) => store.cell(id, language.language.tag)?.state === "stale");
  return (
    <>
      <div
        className="source"
        role="rowheader"
        aria-colindex={1}
        onMouseDown={(event) => onPoint(index, Math.max(0, cursor), event.shiftKey)}
      >
        {row ? (
          <>
            <div className="remark">
              <span className="key">
                {row.key}
                {row.context && <span className="context"> · {row.context}</span>}
              </span>
              {row.openQuestions > 0 && (
                <span className="asked" title={t("questions.open", { n: row.openQuestions })}>
                  <span aria-hidden="true">?</span>
                  <span className="visually-hidden">{t("questions.open", { n: row.openQuestions })}</span>
                </span>
              )}
              {row.maxLength > 0 && <span className="limit">{row.maxLength}</span>}
            </div>
            <div className="text">
              {stale && row.sourceBefore !== undefined ? (
                <DiffShown runs={wordDiff(row.sourceBefore, row.source)} />
              ) : (
                <TextShown text={inOneLine(row.source, row.sourceForms)} signs={signs} />
              )}
            </div>
          </>
        ) : (
          <div className="faint" aria-label={t("ledger.loading")} role="img" />
        )}
      </div>
      {languages.map((kept, column) => {
        const language = kept.language;
        const shown = cellShown(store.cell(id, language.tag), store.pending(id, language.tag));
        const current = cursor === column;
        const chosen = column >= chosenFrom && column <= chosenTo;
        const isKept = row ? (keptBy.get(row.table)?.has(language.tag) ?? true) : true;
        const open = editing?.language === language.tag ? editing : null;
        const moved = open && movedOn(store.cell(id, language.tag), outbox.versionOf(id, language.tag, open.seen));
        const length = [...shown.text].length;
        const limit = row?.maxLength ?? 0;
        return [
          single && (
            <div key="gutter" className="gutter" role="presentation">
              {row && <Mark state={shown.state} labelled={false} />}
            </div>
          ),
          <div
            key={language.tag}
            id={cellId(index, column)}
            role="gridcell"
            aria-colindex={column + 2}
            aria-selected={current || chosen}
            aria-label={
              row &&
              t(shown.remark ? "cell.nameWith" : "cell.name", {
                key: row.key,
                language: languageName(language),
                state: t(`state.${shown.state}`),
                text: shown.text || t("cell.empty"),
                remark: shown.remark,
              })
            }
            className={`cell${current ? " current" : ""}${chosen ? " chosen" : ""}${single ? "" : " marked"}`}
            onMouseDown={(event) => {
              pressedAt = { x: event.clientX, y: event.clientY };
              if (!open) onPoint(index, column, event.shiftKey);
            }}
            onMouseEnter={(event) => {
              if (event.buttons === 1 && !editing && isDragged(event)) onPoint(index, column, true);
            }}
            onDoubleClick={() => onOpen(index, column)}
          >
            {!single && row && <Mark state={shown.state} labelled={false} />}
            <div className="content">
              {(single || shown.remark || moved) && (
                <div className={`remark ${moved ? "blocked" : shown.tone}`}>
                  <span role={moved ? "alert" : undefined}>{moved || shown.remark}</span>
                  {single && limit > 0 && shown.text && !open && (
                    <span className={length > limit ? "limit over" : "limit"}>
                      {length} / {limit}
                    </span>
                  )}
                </div>
              )}
              {open && row?.shape === "asset" ? (
                <AssetEditor
                  label={t("cell.editing", { key: row.key, language: languageName(language) })}
                  now={open.initial}
                  onEnd={onEnd}
                />
              ) : open ? (
                <>
                  <CellEditor
                    draft={open.draft}
                    fields={fieldsOf(row?.shape ?? "plain", language, row?.sourceForms)}
                    label={t("cell.editing", { key: row?.key ?? "", language: languageName(language) })}
                    language={language.tag}
                    rightToLeft={language.rightToLeft}
                    limit={limit}
                    placeholders={inSource}
                    signs={signs}
                    onEnd={onEnd}
                    onTake={onTake}
                  />
                  <Blockers entry={id} language={language.tag} draft={open.draft} />
                </>
              ) : shown.text ? (
                <div className="text" lang={language.tag} dir={language.rightToLeft ? "rtl" : "ltr"}>
                  {row?.shape === "asset" && isPicture(shown.text) && (
                    <img className="thumb" src={`/api/assets/${store.cell(id, language.tag)?.forms?.file}`} alt="" />
                  )}
                  <TextShown text={shown.text} signs={signs} />
                </div>
              ) : !row ? null : !isKept || !row.translatable ? (
                <div className="text none" dir="ltr">
                  {t(row.translatable ? "cell.notKept" : "cell.notForTranslation", {
                    language: languageName(language),
                  })}
                </div>
              ) : (
                <div className="text none" dir={language.rightToLeft ? "rtl" : "ltr"}>
                  <bdi>{t("state.untranslated")}</bdi>
                </div>
              )}
            </div>
          </div>,
        ];
      })}
    </>
  );
});

/** Says who changed the cell while it is being edited; nothing when nobody did. */
function movedOn(cell: CellView | undefined, seen: number | undefined): string {
  return cell && seen !== undefined && cell.version > seen
    ? t("cell.changedMeanwhile", { who: cell.author ?? "" })
    : "";
}
