import { memo } from "react";
import type { Schemas } from "../../api/client";
import { Mark } from "../../scope/Mark";
import { AssetInLine } from "../../asset/AssetShown";
import { AssetEditor } from "../../sheet/AssetEditor";
import { cellShown } from "../../sheet/cellShown";
import { outbox } from "../../sheet/outbox/outbox";
import type { CellView } from "../../sheet/rowStore";
import type { Editing } from "../../sheet/useEditing";
import { fieldsOf, MAIN, type Forms } from "../../text/shapes";
import { TextShown } from "../../text/TextShown";
import { languageName, listed, t } from "../../words/words";
import { kindName } from "../checks";
import { CheckedEditor } from "./CheckedEditor";
import { BorrowedAsset } from "./BorrowedAsset";
import { cellId } from "./cellId";
import { useSheet } from "./sheetModel";
import type { Hands } from "./hands";
import type { Spot } from "./useColumns";

interface Props {
  id: number;
  index: number;
  column: number;
  kept: Schemas["LanguageReply"];
  /** Where the cell stands where the line is no grid. */
  spot: Spot | undefined;
  /** That of the row in the store: what the store says of the cell may have changed when it has. */
  version: number;
  current: boolean;
  chosen: boolean;
  /** The open editor of this row, of whatever language. */
  editing: Editing | null;
  /** The placeholders of the source while an editor is open. */
  placeholders: string[] | undefined;
  hands: Hands;
}

/** Where the mouse was pressed last. */
let pressedAt = { x: 0, y: 0 };
const DRAGGED_PX = 4;

/** Whether the mouse moved since it was pressed; cells that scroll under a still mouse are not chosen by it. */
function isDragged({ clientX, clientY }: { clientX: number; clientY: number }): boolean {
  return Math.max(Math.abs(clientX - pressedAt.x), Math.abs(clientY - pressedAt.y)) >= DRAGGED_PX;
}

/** A text in one language: its mark, what there is to say about it, and the text or its editor. Drawn again only when its row changes. */
export const SpreadCell = memo(function SpreadCell(props: Props) {
  const { id, index, column, kept, spot, current, chosen, editing, placeholders, hands } = props;
  const { store, languages, keptBy, view } = useSheet();
  const language = kept.language;
  const { tag } = language;
  const single = languages.length === 1;
  const row = store.row(id);
  const cell = store.cell(id, tag);
  const shown = cellShown(cell, store.pending(id, tag));
  const lineRemark = shown.state === "stale" && row?.line?.moved.includes(tag) ? t("line.movedOn") : "";
  const isKept = row ? (keptBy.get(row.table)?.has(tag) ?? true) : true;
  const open = editing?.language === tag ? editing : null;
  const moved = open && movedOn(cell, outbox.versionOf(id, tag, open.seen));
  const length = [...shown.text].length;
  const limit = row?.maxLength ?? 0;
  const dir = language.rightToLeft ? "rtl" : "ltr";
  const name = t("cell.editing", { key: row?.key ?? "", language: languageName(language) });
  return (
    <>
      {single && (
        <div className="gutter" role="presentation">
          {row && <Mark state={shown.state} labelled={false} />}
        </div>
      )}
      <div
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
        style={spot ?? (single ? undefined : { gridColumn: column + 2 })}
        onMouseDown={(event) => {
          pressedAt = { x: event.clientX, y: event.clientY };
          if (!open) hands.onPoint(index, column, event.shiftKey);
        }}
        onMouseEnter={(event) => {
          if (event.buttons === 1 && !editing && isDragged(event)) hands.onPoint(index, column, true);
        }}
        onDoubleClick={hands.onOpen}
      >
        {!single && row && <Mark state={shown.state} labelled={false} />}
        <div className="content">
          {(single || shown.remark || moved) && (
            <div className={`remark ${moved ? "blocked" : shown.tone}`}>
              <span role={moved ? "alert" : undefined}>{moved || lineRemark || shown.remark}</span>
              {single && limit > 0 && shown.text && !open && (
                <span className={length > limit ? "limit over" : "limit"}>
                  {length} / {limit}
                </span>
              )}
            </div>
          )}
          {open && row?.shape === "asset" ? (
            <AssetEditor label={name} now={open.initial} onEnd={hands.onEnd} />
          ) : open ? (
            <CheckedEditor
              entry={id}
              draft={open.draft}
              fields={fieldsOf(row?.shape ?? "plain", language, row?.sourceForms)}
              label={name}
              language={tag}
              rightToLeft={language.rightToLeft}
              limit={limit}
              placeholders={placeholders}
              signs={view.signs}
              onEnd={hands.onEnd}
              onTake={hands.onTake}
            />
          ) : shown.text ? (
            <div className="text" lang={tag} dir={dir}>
              {row?.shape === "asset" ? (
                <AssetInLine forms={assetForms(shown.text, cell)} facts={row.assets} />
              ) : (
                <TextShown text={shown.text} signs={view.signs} />
              )}
            </div>
          ) : !row ? null : !isKept || !row.translatable ? (
            <div className="text none" dir="ltr">
              {t(row.translatable ? "cell.notKept" : "cell.notForTranslation", { language: languageName(language) })}
            </div>
          ) : (
            <div className="text none" dir={dir}>
              <bdi>{t("state.untranslated")}</bdi>
              {row.shape === "asset" && <BorrowedAsset row={row} language={tag} />}
            </div>
          )}
          {!open && cell?.stops && shown.text === cell.text && (
            <div className="blockers" dir="ltr">
              {listed(cell.stops.map(kindName))}
            </div>
          )}
        </div>
      </div>
    </>
  );
});

/** The file whose name a cell shows: that in force, or of the offer that waits. */
function assetForms(text: string, cell: CellView | undefined): Forms {
  const named = [cell?.forms, ...(cell?.offers.map((offer) => offer.forms) ?? [])];
  return named.find((forms) => forms?.[MAIN] === text) ?? { [MAIN]: text };
}

/** Says who changed the cell while it is being edited; nothing when nobody did. */
function movedOn(cell: CellView | undefined, seen: number | undefined): string {
  return cell && seen !== undefined && cell.version > seen
    ? t("cell.changedMeanwhile", { who: cell.author ?? "" })
    : "";
}
