import { Button, MenuItem } from "@mui/material";
import { useState, type ReactNode } from "react";
import { ask, sentenceOf, type Schemas } from "../../api/client";
import { Link } from "react-router";
import { t } from "../../words/words";
import { ledgerAt } from "../../scope/scope";
import type { Person } from "../../session/useSession";
import type { Row, RowStore } from "../../sheet/rowStore";
import { FormsShown, TextShown } from "../../text/TextShown";
import { undoing } from "../../sheet/undoing";
import { LineDialog, LineNote } from "../recordings";
import { EntryDialog, MoveDialog } from "./dialogs";
import { SourceDialog } from "./SourceDialog";
import { EntryStory } from "./EntryStory";
import { PictureShown } from "./PictureShown";
import type { EntriesChanged } from "./useEntry";
import { ActionMenu } from "../../parts/ActionMenu";

type Open = "describe" | "rewrite" | "create" | "move" | "line" | null;

interface Props {
  row: Row;
  store: RowStore;
  /** The language that is worked in, which links keep. */
  language: Schemas["LanguageReply"];
  me: Person;
  onSay: (sentence: string) => void;
  /** Entries were made, moved or removed, so the scope has to be read again. */
  onEntries: () => void;
  children?: ReactNode;
}

/** What the entry under the cursor is: source, note, limits, picture, story; and for coordinators all that can be done to it. */
export function EntryNote(props: Props) {
  const { row, store, me, onSay, onEntries } = props;
  const shown = props.language.language.tag;
  const [open, setOpen] = useState<Open>(null);
  const [menu, setMenu] = useState<HTMLElement | null>(null);
  const choose = (what: Open) => {
    setMenu(null);
    setOpen(what);
  };
  const done = (changed: EntriesChanged, scopeMoves: boolean) => {
    setOpen(null);
    undoing.did({ change: changed.change, entries: changed.entries });
    if (scopeMoves) onEntries();
    else void store.refresh(changed.entries);
  };
  const remove = () => {
    setMenu(null);
    ask<EntriesChanged>("/api/entries/removal", { method: "POST", json: { entries: [row.id] } })
      .then((changed) => {
        done(changed, true);
        onSay(t("entry.removed", { key: row.key }));
      })
      .catch((failure: unknown) => onSay(sentenceOf(failure)));
  };
  return (
    <div className="note entry" role="group" tabIndex={0} aria-label={row.key}>
      <h2>
        <bdi>{row.key}</bdi>
        {me.coordinator && (
          <Button
            size="small"
            className="change"
            aria-haspopup="menu"
            onClick={(event) => setMenu(event.currentTarget)}
          >
            {t("entry.change")}
          </Button>
        )}
      </h2>
      {row.sourceForms ? (
        <FormsShown forms={row.sourceForms} lang="" dir="ltr" facts={row.assets} />
      ) : (
        <p className="told" aria-label={t("footnotes.source")} role="note">
          <TextShown text={row.source} />
        </p>
      )}
      <LineNote
        row={row}
        language={shown}
        coordinator={me.coordinator}
        onSay={onSay}
        onChanged={() => void store.refresh([row.id])}
      />
      {row.picture !== undefined && <PictureShown picture={row.picture} entry={row.key} />}
      {row.note ? <p>{row.note}</p> : <p className="soft">{t("footnotes.noNote")}</p>}
      <p className="soft">
        {row.maxLength > 0 ? t("footnotes.limit", { n: row.maxLength }) : t("footnotes.noLimit")}
        {row.maxWidth > 0 && ` · ${t("footnotes.width", { n: row.maxWidth })}`}
        {row.maxLines > 0 && ` · ${t("footnotes.lines", { n: row.maxLines })}`}
        {row.context && ` · ${t("footnotes.context", { context: row.context })}`}
        {row.section && (
          <>
            {" · "}
            <Link to={ledgerAt({ tables: [row.table], languages: [shown], section: row.section })}>{row.section}</Link>
          </>
        )}
        {!row.translatable && ` · ${t("cell.notForTranslation")}`}
      </p>
      {row.tags.length > 0 && (
        <p className="tags">
          {row.tags.map((tag) => (
            <Link key={tag} className="tag" to={ledgerAt({ tables: [row.table], languages: [shown], tag })}>
              {tag}
            </Link>
          ))}
        </p>
      )}
      {row.reference && <p className="mono">{row.reference}</p>}
      {props.children}
      <EntryStory row={row} me={me} onSay={onSay} onDone={(changed) => done(changed, false)} />
      <ActionMenu label={t("entry.change")} anchor={menu} onClose={() => setMenu(null)}>
        <MenuItem onClick={() => choose("rewrite")}>{t("entry.rewrite")}</MenuItem>
        <MenuItem onClick={() => choose("describe")}>{t("entry.describe")}</MenuItem>
        {row.shape === "asset" && <MenuItem onClick={() => choose("line")}>{t("line.open")}</MenuItem>}
        <MenuItem onClick={() => choose("create")}>{t("entry.createAfter")}</MenuItem>
        <MenuItem onClick={() => choose("move")}>{t("entry.move")}</MenuItem>
        <MenuItem onClick={remove}>{t("entry.remove")}</MenuItem>
      </ActionMenu>
      {open === "rewrite" && (
        <SourceDialog row={row} onDone={(changed) => done(changed, false)} onClose={() => setOpen(null)} />
      )}
      {open === "describe" && (
        <EntryDialog
          table={row.table}
          row={row}
          after={null}
          onDone={(changed) => done(changed, false)}
          onClose={() => setOpen(null)}
        />
      )}
      {open === "line" && (
        <LineDialog
          row={row}
          onDone={() => {
            setOpen(null);
            void store.refresh([row.id]);
          }}
          onClose={() => setOpen(null)}
        />
      )}
      {open === "create" && (
        <EntryDialog
          table={row.table}
          row={null}
          section={row.section}
          after={row.id}
          onDone={(changed) => done(changed, true)}
          onClose={() => setOpen(null)}
        />
      )}
      {open === "move" && (
        <MoveDialog row={row} onDone={(changed) => done(changed, true)} onClose={() => setOpen(null)} />
      )}
    </div>
  );
}
