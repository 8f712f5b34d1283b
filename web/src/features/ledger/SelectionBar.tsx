import { Button, CircularProgress } from "@mui/material";
import { useSyncExternalStore } from "react";
import { t } from "../../words/words";
import { languagesIn, placesIn, sizeOf, type Block } from "../../sheet/selection";
import { fits, type BlockAction, type Blocks } from "../../sheet/useBlocks";
import { useSheet } from "./sheetModel";
import "../../parts/selection.css";

/** Counting more would take longer than a frame; then the buttons say no number. */
const COUNTED = 5_000;

interface Props {
  block: Block;
  blocks: Blocks;
  onDrop: () => void;
}

const LABELS = {
  PUT_FORWARD: "select.putForward",
  SETTLE: "select.settle",
  STILL_HOLDS: "select.holds",
  CLEAR: "select.clear",
} as const;

/** What can be done with the chosen cells, while there are several. */
export function SelectionBar({ block, blocks, onDrop }: Props) {
  const { me, entries, store, languages } = useSheet();
  useSyncExternalStore(
    (listener) => store.subscribeAll(listener),
    () => store.changes,
  );
  const n = sizeOf(block);
  const shown = (Object.keys(LABELS) as BlockAction[]).flatMap((action) => {
    const reviewing = action === "SETTLE" || action === "CLEAR";
    const may = languagesIn(block, languages).some(
      ({ language }) => me.coordinator || (me.levels[language.tag] ?? "reader") !== "reader",
    );
    const reviews = languagesIn(block, languages).some(
      ({ language }) => me.coordinator || me.levels[language.tag] === "reviewer",
    );
    if (reviewing ? !reviews : !may) return [];
    const amount =
      n > COUNTED
        ? n
        : placesIn(block).filter(({ row, column }) =>
            fits(action, store.cell(entries.ids[row] ?? 0, languages[column]?.language.tag ?? "")),
          ).length;
    return amount > 0 ? [{ action, amount }] : [];
  });
  return (
    <div className="selectionbar" role="toolbar" aria-label={t("select.bar")}>
      <span role="status">
        {t("select.chosen", { n })} {t("select.rows", { n: block.bottom - block.top + 1 })}
      </span>
      {blocks.busy ? (
        <span className="busy" role="status">
          <CircularProgress size={14} aria-label={blocks.busy} /> {blocks.busy}
        </span>
      ) : (
        <>
          {shown.map(({ action, amount }) => (
            <Button
              key={action}
              size="small"
              variant={action === "SETTLE" ? "contained" : "outlined"}
              color={action === "CLEAR" ? "error" : "primary"}
              onClick={() => void blocks.act(action)}
            >
              {n > COUNTED ? t(`${LABELS[action]}All`) : t(LABELS[action], { n: amount })}
            </Button>
          ))}
          <Button size="small" onClick={() => blocks.copy(null)}>
            {t("select.copy")}
          </Button>
          {block.bottom > block.top && (
            <Button size="small" onClick={() => void blocks.fill()}>
              {t("select.fill")}
            </Button>
          )}
          <Button size="small" onClick={onDrop}>
            {t("select.drop")}
          </Button>
        </>
      )}
    </div>
  );
}
