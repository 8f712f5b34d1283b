import { Button, IconButton, TextField, Tooltip } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { useEffect, useRef, useState, useSyncExternalStore } from "react";
import { ask, sentenceOf, type Schemas } from "../../api/client";
import { t, when } from "../../words/words";
import type { Person } from "../session/useSession";
import type { RowStore } from "./rowStore";
import { TextShown } from "./TextShown";
import { unsaved } from "./unsaved";
import type { CellChanges } from "./useCellChanges";
import "./footnotes.css";

const LOWEST = 90;
const HIGHEST = 460;
const STEP = 24;
const HEIGHT_KEY = "mellow.footnotes";

interface Props {
  store: RowStore;
  entry: number;
  language: Schemas["LanguageReply"];
  me: Person;
  changes: CellChanges;
  onSay: (sentence: string) => void;
  onAmend: (offer: number, text: string) => void;
  onClose: () => void;
}

/** About the cell under the cursor: what the entry is, what is offered and by whom, and the cell's story. */
export function Footnotes(props: Props) {
  const { store, entry, language } = props;
  const [height, setHeight] = useState(() => Number(localStorage.getItem(HEIGHT_KEY)) || 190);
  useSyncExternalStore(
    (listener) => store.subscribe(entry, listener),
    () => store.version(entry),
  );
  const resize = (to: number) => {
    const within = Math.max(LOWEST, Math.min(HIGHEST, to));
    setHeight(within);
    localStorage.setItem(HEIGHT_KEY, String(within));
  };
  const row = store.row(entry);
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
          <div className="note entry" role="group" tabIndex={0} aria-label={row.key}>
            <h2>
              <bdi>{row.key}</bdi>
            </h2>
            <p className="told" aria-label={t("footnotes.source")} role="note">
              <TextShown text={row.source} />
            </p>
            {row.note ? <p>{row.note}</p> : <p className="soft">{t("footnotes.noNote")}</p>}
            <p className="soft">
              {row.maxLength > 0 ? t("footnotes.limit", { n: row.maxLength }) : t("footnotes.noLimit")}
              {row.context && ` · ${t("footnotes.context", { context: row.context })}`}
              {row.section && ` · ${row.section}`}
            </p>
            {row.reference && <p className="mono">{row.reference}</p>}
            {row.sourceRevision > 1 && <p className="soft">{t("footnotes.revision", { n: row.sourceRevision })}</p>}
          </div>
          <div
            className="note"
            role="group"
            tabIndex={0}
            aria-label={t("footnotes.text", { language: language.language.englishName })}
          >
            <h2>{t("footnotes.text", { language: language.language.englishName })}</h2>
            <TextNote {...props} />
          </div>
          <div className="note" role="group" tabIndex={0} aria-label={t("footnotes.story")}>
            <h2>{t("footnotes.story")}</h2>
            <Story {...props} />
          </div>
        </>
      )}
    </section>
  );
}

function TextNote({ store, entry, language, me, changes, onSay, onAmend }: Props) {
  const tag = language.language.tag;
  const cell = store.cell(entry, tag);
  const pending = store.pending(entry, tag);
  const dir = language.language.rightToLeft ? "rtl" : "ltr";
  const reviews = me.coordinator || me.levels[tag] === "reviewer";
  const send = (change: Parameters<CellChanges["change"]>[2]) =>
    void changes.change(entry, tag, change).then((wrong) => wrong && onSay(wrong));
  const shown = (text: string) => (
    <p className="told" lang={tag} dir={dir}>
      <TextShown text={text} />
    </p>
  );
  return (
    <>
      {pending && pending.status !== "saving" && (
        <div className="conflict" role="alert">
          <p className="wrong">{pending.sentence}</p>
          <p className="soft">{t("footnotes.yours")}</p>
          {shown(pending.text)}
          <div className="answers">
            <Button
              size="small"
              variant="contained"
              onClick={() => send({ action: "PUT_FORWARD", text: pending.text })}
            >
              {t("footnotes.putForward")}
            </Button>
            <Button
              size="small"
              onClick={() => {
                unsaved.drop(entry, tag);
                store.setPending(entry, tag, null);
              }}
            >
              {t("footnotes.dropMine")}
            </Button>
          </div>
        </div>
      )}
      <p className="soft">
        {cell?.text === undefined
          ? t("footnotes.nothingInForce")
          : t(cell.settled ? "footnotes.inForce" : "footnotes.pencilled")}
      </p>
      {cell?.text !== undefined && shown(cell.text)}
      {cell?.state === "stale" && reviews && (
        <Button size="small" variant="outlined" onClick={() => send({ action: "STILL_HOLDS" })}>
          {t("footnotes.holds")}
        </Button>
      )}
      {cell?.returned && <p className="wrong">{t("cell.returned", { why: cell.returned })}</p>}
      {cell?.offers.map((offer) => {
        const mine = offer.authorId === me.id;
        return (
          <div key={offer.id} className="offer">
            <p className="offered">
              {t("footnotes.offeredBy", { who: mine ? t("footnotes.you") : offer.author, when: when(offer.at) })}
            </p>
            {shown(offer.text)}
            <div className="answers">
              {reviews && (!mine || language.settlesOwn) && (
                <Button
                  size="small"
                  variant="contained"
                  onClick={() => send({ action: "SETTLE", offer: offer.id, meaningConfirmed: true })}
                >
                  {t("footnotes.settle")}
                </Button>
              )}
              {reviews && (
                <Button size="small" variant="outlined" onClick={() => onAmend(offer.id, offer.text)}>
                  {t("footnotes.amend")}
                </Button>
              )}
              {reviews && !mine && (
                <ReturnOffer onReturn={(reason) => send({ action: "RETURN", offer: offer.id, reason })} />
              )}
              {mine && (
                <Button size="small" onClick={() => send({ action: "WITHDRAW", offer: offer.id })}>
                  {t("footnotes.withdraw")}
                </Button>
              )}
            </div>
          </div>
        );
      })}
    </>
  );
}

function ReturnOffer({ onReturn }: { onReturn: (reason: string) => void }) {
  const [open, setOpen] = useState(false);
  const [reason, setReason] = useState("");
  const field = useRef<HTMLInputElement>(null);
  useEffect(() => {
    if (open) field.current?.focus();
  }, [open]);
  if (!open) {
    return (
      <Button size="small" variant="outlined" color="error" onClick={() => setOpen(true)}>
        {t("footnotes.return")}
      </Button>
    );
  }
  return (
    <form
      className="reason"
      onSubmit={(event) => {
        event.preventDefault();
        onReturn(reason);
      }}
    >
      <TextField
        size="small"
        inputRef={field}
        label={t("footnotes.reason")}
        value={reason}
        onChange={(event) => setReason(event.target.value)}
        onKeyDown={(event) => event.key === "Escape" && setOpen(false)}
      />
      <Button size="small" type="submit" color="error" variant="contained" disabled={reason.trim() === ""}>
        {t("footnotes.return")}
      </Button>
    </form>
  );
}

function Story({ store, entry, language, changes, onSay }: Props) {
  const tag = language.language.tag;
  const version = store.cell(entry, tag)?.version ?? 0;
  const story = useQuery({
    queryKey: ["story", entry, tag, version],
    queryFn: ({ signal }) =>
      ask<Schemas["StoryLine"][]>(`/api/entries/${entry}/cells/${encodeURIComponent(tag)}/story`, { signal }),
    staleTime: 30_000,
  });
  if (story.isError) return <p className="wrong">{sentenceOf(story.error)}</p>;
  if (!story.data) return <p className="soft">{t("ledger.loading")}</p>;
  if (story.data.length === 0) return <p className="soft">{t("footnotes.noStory")}</p>;
  return (
    <ol className="story">
      {story.data.map((line, at) => (
        <li key={line.id}>
          <span className="soft">{when(line.at)}</span> {t(`story.${line.what as "settled"}`, { who: line.person })}
          {line.file && <span className="soft"> {t("story.fromFile", { file: line.file })}</span>}
          {line.reason && <span className="wrong"> {line.reason}</span>}
          {line.after && (
            <span className="said" lang={tag} dir={language.language.rightToLeft ? "rtl" : "ltr"}>
              {line.after}
            </span>
          )}
          {line.canBePutBack && at > 0 && (
            <button
              type="button"
              className="putback"
              onClick={() =>
                void changes
                  .change(entry, tag, { action: "PUT_BACK", line: line.id })
                  .then((wrong) => wrong && onSay(wrong))
              }
            >
              {t("footnotes.putBack")}
            </button>
          )}
        </li>
      ))}
    </ol>
  );
}
