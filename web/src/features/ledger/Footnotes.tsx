import { IconButton, Tooltip } from "@mui/material";
import { useState, useSyncExternalStore, type ReactNode } from "react";
import { everyTab, isNumber, readKept, writeKept } from "../../sheet/outbox/browserStore";
import { keysSaid } from "../../words/keys";
import { languageName, t } from "../../words/words";
import { CodePlaces } from "../code";
import { EntryNote } from "../entry";
import { WhereShown } from "../scenes";
import { CellStory } from "./CellStory";
import { ChecksNote } from "./ChecksNote";
import type { FootnoteProps } from "./footnoteProps";
import { MemoryNote } from "./MemoryNote";
import { QuestionsNote } from "./QuestionsNote";
import { TextNote } from "./TextNote";
import { useNotes } from "./useNotes";
import "./footnotes.css";

const LOWEST = 90;
const HIGHEST = 460;
const STEP = 24;
const HEIGHT_KEY = "mellow.footnotes";

/** About the cell under the cursor: what the entry is, what is offered and by whom, and the cell's story. */
export function Footnotes(props: FootnoteProps) {
  const { store, entry, language } = props;
  const [height, setHeight] = useState(() => readKept(everyTab, HEIGHT_KEY, isNumber) ?? 190);
  useSyncExternalStore(
    (listener) => store.subscribe(entry, listener),
    () => store.version(entry),
  );
  const resize = (to: number) => {
    const within = Math.max(LOWEST, Math.min(HIGHEST, to));
    setHeight(within);
    writeKept(everyTab, HEIGHT_KEY, within);
  };
  const ready = useNotes(store, entry, language.language.tag);
  const row = store.row(entry);
  const text = t("footnotes.text", { language: languageName(language.language) });
  return (
    <section className="footnotes" aria-label={t("footnotes.title")} style={{ height }} tabIndex={-1}>
      <div
        className="handle"
        role="separator"
        aria-orientation="horizontal"
        aria-label={t("footnotes.resize")}
        aria-valuenow={height}
        aria-valuemin={LOWEST}
        aria-valuemax={HIGHEST}
        tabIndex={0}
        onKeyDown={(event) => {
          if (event.key === "ArrowUp") resize(height + STEP);
          if (event.key === "ArrowDown") resize(height - STEP);
        }}
        onPointerDown={(event) => event.currentTarget.setPointerCapture(event.pointerId)}
        onPointerMove={(event) => {
          if (event.currentTarget.hasPointerCapture(event.pointerId)) resize(height - event.movementY);
        }}
      />
      <Tooltip title={t("footnotes.close")}>
        <IconButton className="close" size="small" aria-label={t("footnotes.close")} onClick={props.onClose}>
          ×
        </IconButton>
      </Tooltip>
      {row && (
        <>
          <EntryNote {...props} row={row}>
            {ready && <CodePlaces entry={entry} />}
            {ready && <WhereShown entry={entry} language={language.language.tag} />}
            <h3>{t("questions.title")}</h3>
            {ready && <QuestionsNote {...props} key={entry} />}
          </EntryNote>
          <Note label={t("memory.title")} aside={<MemoryKeys />}>
            {ready ? <MemoryNote {...props} /> : <Coming />}
          </Note>
          <Note label={t("checks.title")}>{ready ? <ChecksNote {...props} /> : <Coming />}</Note>
          <div className="note" role="group" tabIndex={0} aria-label={text}>
            <h2>{text}</h2>
            <TextNote {...props} />
            <h2>{t("footnotes.story")}</h2>
            {ready ? <CellStory {...props} /> : <Coming />}
          </div>
        </>
      )}
    </section>
  );
}

function Note({ label, aside, children }: { label: string; aside?: ReactNode; children: ReactNode }) {
  return (
    <div className="note" role="group" tabIndex={0} aria-label={label}>
      <h2>
        {label} {aside}
      </h2>
      {children}
    </div>
  );
}

function Coming() {
  return <p className="soft">{t("ledger.loading")}</p>;
}

function MemoryKeys() {
  return (
    <small className="soft">
      <kbd>{keysSaid("Alt+letter")}</kbd>
    </small>
  );
}
