import { Button, Dialog, DialogActions, DialogContent, DialogTitle } from "@mui/material";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { ask, sentenceOf, type Schemas } from "../../api/client";
import { undoing } from "../../sheet/undoing";
import { TextShown } from "../../text/TextShown";
import { t } from "../../words/words";
import "./filling.css";

type Same = Schemas["SameSource"];

interface Props {
  entry: number;
  /** The language's tag. */
  language: string;
  /** The settled text. */
  text: string;
  /** Whether one may settle what one wrote oneself there. */
  settles: boolean;
  /** Called with what was done, and where. */
  onDone: (said: string, entries: number[]) => void;
}

/** Offers a settled text to the untranslated cells with the same source elsewhere: they are seen before, and one undo takes it back. */
export function SpreadNote({ entry, language, text, settles, onDone }: Props) {
  const queries = useQueryClient();
  const [open, setOpen] = useState(false);
  const [wrong, setWrong] = useState("");
  const going = useRef(false);
  const same = useQuery({
    queryKey: ["same", entry, language, text],
    queryFn: ({ signal }) =>
      ask<Same[]>(`/api/entries/${entry}/cells/${encodeURIComponent(language)}/same`, { signal }),
    enabled: open,
    staleTime: 0,
  });
  const cells = same.data ?? [];
  const spread = async (action: "PENCIL" | "PUT_FORWARD") => {
    if (going.current) return;
    going.current = true;
    try {
      const done = await ask<Schemas["Many"]>("/api/cells/changes", {
        method: "POST",
        json: {
          action,
          how: "MEMORY",
          meaningConfirmed: false,
          cells: cells.map((one) => ({ entry: one.entry, language, version: one.version, text })),
        },
      });
      const entries = cells.map((one) => one.entry);
      undoing.did({ change: done.change, entries });
      setOpen(false);
      void queries.invalidateQueries({ queryKey: ["tables"] });
      onDone(t("spread.done", { n: done.changed }), entries);
    } catch (failure) {
      setWrong(sentenceOf(failure));
    }
    going.current = false;
  };
  return (
    <>
      <Button size="small" onClick={() => setOpen(true)}>
        {t("spread.open")}
      </Button>
      {open && (
        <Dialog open onClose={() => setOpen(false)} maxWidth="sm" fullWidth aria-labelledby="spread-title">
          <DialogTitle id="spread-title">{t("spread.title")}</DialogTitle>
          <DialogContent className="filling">
            <p>
              <bdi lang={language}>
                <TextShown text={text} />
              </bdi>
            </p>
            {(wrong || same.error) && <p className="wrong">{wrong || sentenceOf(same.error)}</p>}
            <p role="status" className="soft">
              {same.data ? t("spread.found", { n: cells.length }) : t("ledger.loading")}
            </p>
            <ul className="refusals">
              {cells.map((one) => (
                <li key={one.entry}>
                  {one.table} · <code>{one.key}</code>
                </li>
              ))}
            </ul>
          </DialogContent>
          <DialogActions>
            <Button onClick={() => setOpen(false)}>{t("cancel")}</Button>
            {settles && (
              <Button disabled={cells.length === 0} onClick={() => void spread("PUT_FORWARD")}>
                {t("spread.settle", { n: cells.length })}
              </Button>
            )}
            <Button variant="contained" disabled={cells.length === 0} onClick={() => void spread("PENCIL")}>
              {t("spread.pencil", { n: cells.length })}
            </Button>
          </DialogActions>
        </Dialog>
      )}
    </>
  );
}
