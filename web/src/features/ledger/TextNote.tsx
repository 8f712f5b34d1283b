import { Button, TextField } from "@mui/material";
import { useEffect, useRef, useState } from "react";
import { sentenceOf } from "../../api/client";
import { t, when } from "../../words/words";
import { outbox } from "../../sheet/outbox/outbox";
import { SayForm } from "../offers";
import { useOfferChanges } from "../offers";
import { SpreadNote } from "../filling";
import type { FootnoteProps } from "./footnoteProps";
import { FormsShown, TextShown } from "../../text/TextShown";
import { formsOf, mainForm } from "../../text/shapes";
import type { CellChanges } from "../../sheet/useCellChanges";

/** The text in force in one language, what is offered beside it, and what can be done about either. */
export function TextNote({ store, entry, language, me, changes, onSay, onAmend }: FootnoteProps) {
  const tag = language.language.tag;
  const [saying, setSaying] = useState<number | null>(null);
  const { say } = useOfferChanges();
  const cell = store.cell(entry, tag);
  const pending = store.pending(entry, tag);
  const dir = language.language.rightToLeft ? "rtl" : "ltr";
  const reviews = me.coordinator || me.levels[tag] === "reviewer";
  const send = (change: Parameters<CellChanges["change"]>[2]) =>
    void changes.change(entry, tag, change).then((wrong) => wrong && onSay(wrong));
  const shown = (text: string, forms?: Record<string, string>) =>
    forms ? (
      <FormsShown forms={forms} lang={tag} dir={dir} facts={store.row(entry)?.assets} />
    ) : (
      <p className="told" lang={tag} dir={dir}>
        <TextShown text={text} />
      </p>
    );
  const row = store.row(entry);
  return (
    <>
      {pending && pending.status !== "saving" && (
        <div className="conflict" role="alert">
          <p className="wrong">{pending.sentence}</p>
          <p className="soft">{t("footnotes.yours")}</p>
          {shown(mainForm(pending.forms), row?.shape === "plain" ? undefined : pending.forms)}
          {pending.status !== "waiting" && (
            <div className="answers">
              <Button
                size="small"
                variant="contained"
                onClick={() =>
                  send(
                    row?.shape === "plain"
                      ? { action: "PUT_FORWARD", text: mainForm(pending.forms) }
                      : { action: "PUT_FORWARD", forms: pending.forms },
                  )
                }
              >
                {t("footnotes.putForward")}
              </Button>
              <Button size="small" onClick={() => outbox.drop(entry, tag)}>
                {t("footnotes.dropMine")}
              </Button>
            </div>
          )}
        </div>
      )}
      <p className="soft">
        {cell?.text === undefined
          ? t("footnotes.nothingInForce")
          : t(cell.settled ? "footnotes.inForce" : "footnotes.pencilled")}
        {cell?.text !== undefined && isTold(cell.origin) && ` · ${t(`origin.${cell.origin}`)}`}
      </p>
      {cell?.text !== undefined && shown(cell.text, cell.forms)}
      {cell?.state === "stale" && row?.line?.moved.includes(tag) && (
        <p className="stale">{t("line.rewritten", { key: row.line.key })}</p>
      )}
      {cell?.settled &&
        cell.text !== undefined &&
        row?.shape === "plain" &&
        (reviews || me.levels[tag] === "contributor") && (
          <SpreadNote
            entry={entry}
            language={tag}
            text={cell.text}
            settles={reviews && language.settlesOwn}
            onDone={(said, entries) => {
              onSay(said);
              void store.refresh(entries);
            }}
          />
        )}
      {cell?.state === "stale" && (reviews || me.levels[tag] === "contributor") && (
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
            {shown(offer.text, offer.forms)}
            {offer.note && (
              <p className="soft">
                {t("footnotes.said", { who: mine ? t("footnotes.you") : offer.author, what: offer.note })}
              </p>
            )}
            {saying === offer.id && (
              <SayForm
                was={offer.note}
                onClose={() => setSaying(null)}
                onSay={(note) =>
                  void say(offer.id, note)
                    .then(() => setSaying(null))
                    .then(() => store.refresh([entry]))
                    .catch((failure: unknown) => onSay(sentenceOf(failure)))
                }
              />
            )}
            {row && offer.basedOn < row.meaningRevision && <p className="stale">{t("footnotes.offerOlder")}</p>}
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
                <Button
                  size="small"
                  variant="outlined"
                  onClick={() => onAmend(offer.id, formsOf(offer.text, offer.forms))}
                >
                  {t("footnotes.amend")}
                </Button>
              )}
              {reviews && !mine && (
                <ReturnOffer onReturn={(reason) => send({ action: "RETURN", offer: offer.id, reason })} />
              )}
              {mine && (
                <>
                  <Button size="small" onClick={() => setSaying(offer.id)}>
                    {t(offer.note ? "offers.sayOther" : "offers.say")}
                  </Button>
                  <Button size="small" onClick={() => send({ action: "WITHDRAW", offer: offer.id })}>
                    {t("footnotes.withdraw")}
                  </Button>
                </>
              )}
            </div>
          </div>
        );
      })}
    </>
  );
}

/** Ways on which a text came that a reader of it wants to know. */
function isTold(origin: string | undefined): origin is "draft" | "memory" {
  return origin === "draft" || origin === "memory";
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
