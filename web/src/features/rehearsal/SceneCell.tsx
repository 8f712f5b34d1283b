import { Button } from "@mui/material";
import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useMemo, useRef, useState } from "react";
import { sentenceOf, type Schemas } from "../../api/client";
import type { Person } from "../../session/useSession";
import { AssetEditor } from "../../sheet/AssetEditor";
import { formsShown } from "../../sheet/cellShown";
import { Entries } from "../../sheet/entries";
import { RowStore } from "../../sheet/rowStore";
import { useCellChanges } from "../../sheet/useCellChanges";
import { useEditing } from "../../sheet/useEditing";
import { placeholdersIn } from "../../text/guarding";
import { hitOf } from "../../text/memory";
import { fieldsOf, inOneLine, mainForm } from "../../text/shapes";
import { TextShown } from "../../text/TextShown";
import { mendedBy, MEND_LETTER } from "../../text/useCheck";
import { t } from "../../words/words";
import { CheckedEditor, Footnotes, useSheetLive } from "../ledger";
import { PlaceNote } from "./PlaceNote";

interface Props {
  me: Person;
  stage: Schemas["Stage"];
  text: Schemas["PlaceText"];
  entry: number;
  table: Schemas["TableReply"];
  language: Schemas["LanguageReply"];
  onSay: (sentence: string) => void;
  onClose: () => void;
}

const HERE = { row: 0, column: 0 };

/** The cell of a text in a scene, with everything that the ledger has: its editor, memory, checks, offers and story. */
export function SceneCell({ me, stage, text, entry, table, language, onSay, onClose }: Props) {
  const queries = useQueryClient();
  const tag = language.language.tag;
  const store = useMemo(() => new RowStore([tag], (failure) => onSay(sentenceOf(failure))), [tag, onSay]);
  const entries = useMemo(
    () => Entries.of({ deltas: [entry], sections: [] } as unknown as Schemas["ScopeReply"]),
    [entry],
  );
  const tables = useMemo(() => [table], [table]);
  const languages = useMemo(() => [language], [language]);
  const keptBy = useMemo(
    () => new Map([[table.slug, new Set(table.languages.map((kept) => kept.language.tag))]]),
    [table],
  );
  const changes = useCellChanges(store);
  const edit = useRef<HTMLButtonElement>(null);
  const [, setVersion] = useState(0);
  useEffect(() => store.follow(), [store]);
  useEffect(() => {
    const stop = store.subscribe(entry, () => setVersion(store.version(entry)));
    void store.load([entry]);
    return stop;
  }, [store, entry]);
  useSheetLive(store, tables);
  const { editing, open, amend, take, end } = useEditing({
    entries,
    store,
    languages,
    keptBy,
    place: HERE,
    me: me.id,
    changes,
    onSay,
    go: () => undefined,
    focus: () => edit.current?.focus(),
  });
  const row = store.row(entry);
  const here = row !== undefined;
  // Whoever chooses a text wants to change it: the editor opens once, as soon as there is something to edit.
  const opened = useRef(false);
  useEffect(() => {
    if (!here || opened.current) return;
    opened.current = true;
    open(null);
  }, [here, open]);
  const cell = store.cell(entry, tag);
  const dir = language.language.rightToLeft ? "rtl" : "ltr";
  const standing = formsShown(cell, store.pending(entry, tag));
  const label = `${text.key}, ${language.language.englishName}`;
  return (
    <div className="scenecell">
      <div className="celltext">
        <PlaceNote stage={stage} text={text} onClose={onClose} />
        {!row ? (
          <p className="soft">{t("ledger.loading")}</p>
        ) : (
          <>
            <p className="soft">
              <TextShown text={inOneLine(row.source, row.sourceForms)} />
            </p>
            {editing ? (
              row.shape === "asset" ? (
                <AssetEditor label={label} now={editing.initial} onEnd={end} />
              ) : (
                <CheckedEditor
                  entry={entry}
                  draft={editing.draft}
                  fields={fieldsOf(row.shape, language.language, row.sourceForms)}
                  label={label}
                  language={tag}
                  rightToLeft={language.language.rightToLeft}
                  limit={row.maxLength}
                  placeholders={placeholdersIn(row.source).map(({ start, end: to }) => row.source.slice(start, to))}
                  onEnd={end}
                  onTake={(letter) => {
                    const forms =
                      letter === MEND_LETTER
                        ? mendedBy(queries, entry, tag, editing.draft.all())
                        : hitOf(queries, entry, tag, letter);
                    if (forms) take(forms);
                  }}
                />
              )
            ) : (
              <p lang={tag} dir={dir}>
                <TextShown text={inOneLine(mainForm(standing), standing)} />
              </p>
            )}
            <p className="answers">
              {editing ? (
                <Button
                  key="forward"
                  size="small"
                  variant="contained"
                  // The editor must not be left by the press.
                  onMouseDown={(event) => event.preventDefault()}
                  onClick={() => end(editing.draft.all(), "put-forward")}
                >
                  {t("footnotes.putForward")}
                </Button>
              ) : (
                <Button
                  key="edit"
                  ref={edit}
                  size="small"
                  variant="outlined"
                  // A press too many of the other must not open what is being saved.
                  disabled={store.pending(entry, tag)?.status === "saving"}
                  onClick={() => open(null)}
                >
                  {t("rehearsal.edit")}
                </Button>
              )}
            </p>
          </>
        )}
      </div>
      {row && (
        <Footnotes
          store={store}
          entry={entry}
          language={language}
          me={me}
          changes={changes}
          draft={editing?.draft ?? null}
          onSay={onSay}
          onAmend={amend}
          onTake={take}
          onEntries={() => void store.refresh([entry])}
          onClose={onClose}
        />
      )}
    </div>
  );
}
