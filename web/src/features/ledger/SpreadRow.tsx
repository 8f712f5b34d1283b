import { memo, useSyncExternalStore } from "react";
import { placeholdersIn } from "../../text/guarding";
import { SOURCE } from "../../sheet/keyboard";
import { inOneLine } from "../../text/shapes";
import { AssetInLine } from "../../asset/AssetShown";
import { DiffShown, TextShown } from "../../text/TextShown";
import type { Editing } from "../../sheet/useEditing";
import { wordDiff } from "../../text/wordDiff";
import { t } from "../../words/words";
import { cellId } from "./cellId";
import type { Hands } from "./hands";
import { useSheet } from "./sheetModel";
import type { Columns } from "./useColumns";
import { SpreadCell } from "./SpreadCell";

interface Props {
  id: number;
  index: number;
  /** The column of the cursor when it is in this row, else null. */
  cursor: number | null;
  /** The chosen columns of this row; none where the first is after the last. */
  chosenFrom: number;
  chosenTo: number;
  editing: Editing | null;
  columns: Columns;
  hands: Hands;
}

/** One entry: its source on the left page, its texts on the right. Drawn again only when it changes. */
export const SpreadRow = memo(function SpreadRow(props: Props) {
  const { id, index, cursor, chosenFrom, chosenTo, editing, hands } = props;
  const { store, languages, view } = useSheet();
  const version = useSyncExternalStore(
    (listener) => store.subscribe(id, listener),
    () => store.version(id),
  );
  const row = store.row(id);
  const inSource =
    editing && row ? placeholdersIn(row.source).map(({ start, end }) => row.source.slice(start, end)) : undefined;
  const stale = languages.some((language) => store.cell(id, language.language.tag)?.state === "stale");
  const chosen = (column: number) => column >= chosenFrom && column <= chosenTo;
  const source = ["source", cursor === SOURCE ? "current" : "", chosen(SOURCE) ? "chosen" : ""];
  return (
    <>
      <div
        id={cellId(index, SOURCE)}
        className={source.filter((name) => name !== "").join(" ")}
        style={props.columns.spots?.[0] && { width: props.columns.spots[0].insetInlineStart }}
        role="rowheader"
        aria-colindex={1}
        aria-selected={cursor === SOURCE || chosen(SOURCE)}
        onMouseDown={(event) => hands.onPoint(index, SOURCE, event.shiftKey)}
        onDoubleClick={hands.onOpen}
      >
        {row ? (
          <>
            <div className="remark">
              {row.line && (
                <span
                  className={row.line.moved.length > 0 ? "spoken moved" : "spoken"}
                  title={t("line.speaks", { key: row.line.key })}
                >
                  <span aria-hidden="true">“ ”</span>
                  <span className="visually-hidden">{t("line.speaks", { key: row.line.key })}</span>
                </span>
              )}
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
              {row.scenes > 0 && (
                <span className="onscenes" title={t("ledger.onScenes", { n: row.scenes })}>
                  <span aria-hidden="true">▭ {row.scenes}</span>
                  <span className="visually-hidden">{t("ledger.onScenes", { n: row.scenes })}</span>
                </span>
              )}
              {row.maxLength > 0 && <span className="limit">{row.maxLength}</span>}
            </div>
            <div className="text">
              {row.shape === "asset" ? (
                <AssetInLine forms={row.sourceForms ?? {}} facts={row.assets} />
              ) : stale && row.sourceBefore !== undefined ? (
                <DiffShown runs={wordDiff(row.sourceBefore, row.source)} />
              ) : (
                <TextShown text={inOneLine(row.source, row.sourceForms)} signs={view.signs} />
              )}
            </div>
          </>
        ) : (
          <div className="faint" aria-label={t("ledger.loading")} role="img" />
        )}
      </div>
      {columnsHere(props, languages).map((column) => {
        const kept = languages[column];
        return (
          kept && (
            <SpreadCell
              key={kept.language.tag}
              id={id}
              index={index}
              column={column}
              kept={kept}
              spot={props.columns.spots?.[column]}
              version={version}
              current={cursor === column}
              chosen={chosen(column)}
              editing={editing}
              placeholders={inSource}
              hands={hands}
            />
          )
        );
      })}
    </>
  );
});

/** Those in sight, and where the cursor and the open editor are. */
function columnsHere({ columns, cursor, editing }: Props, languages: { language: { tag: string } }[]): number[] {
  const { shown } = columns;
  const open = editing ? languages.findIndex((kept) => kept.language.tag === editing.language) : SOURCE;
  const also = [cursor ?? SOURCE, open].filter((column) => column !== SOURCE && !shown.includes(column));
  return also.length === 0 ? shown : [...new Set([...shown, ...also])].sort((a, b) => a - b);
}
