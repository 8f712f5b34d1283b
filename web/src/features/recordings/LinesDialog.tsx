import { Alert, Button, Dialog, DialogActions, DialogContent, DialogTitle, MenuItem, TextField } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { ask, sentenceOf, type Schemas } from "../../api/client";
import { useTables } from "../../scope/useTables";
import { count, t } from "../../words/words";
import "../../parts/form.css";
import "../../parts/listed.css";

interface Props {
  table: Schemas["TableReply"];
  onDone: (sentence: string) => void;
  onClose: () => void;
}

const SHOWN = 12;

/** Finds the lines of all recordings of a table that have none yet, by their keys. */
export function LinesDialog({ table, onDone, onClose }: Props) {
  const tables = useTables();
  const [lines, setLines] = useState(table.slug);
  const [busy, setBusy] = useState(false);
  const [wrong, setWrong] = useState("");
  const send = (tie: boolean, signal?: AbortSignal) =>
    ask<Schemas["AlikeReply"]>(`/api/tables/${encodeURIComponent(table.slug)}/recordings`, {
      method: "POST",
      json: { lines, tie },
      signal,
    });
  const told = useQuery({
    queryKey: ["recordings", table.slug, lines],
    queryFn: ({ signal }) => send(false, signal),
    staleTime: 0,
  });
  const found = told.data;
  const tie = () => {
    setBusy(true);
    send(true)
      .then(({ pairs }) => onDone(t("lines.tied", { n: pairs })))
      .catch((failure: unknown) => {
        setBusy(false);
        setWrong(sentenceOf(failure));
      });
  };
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm" aria-labelledby="lines-title">
      <DialogTitle id="lines-title">{t("recordings.title", { table: table.name })}</DialogTitle>
      <DialogContent className="entry-form">
        <p className="soft">{t("recordings.words")}</p>
        <TextField
          select
          size="small"
          fullWidth
          label={t("line.table")}
          value={lines}
          onChange={(event) => setLines(event.target.value)}
        >
          {(tables.data ?? []).map((one) => (
            <MenuItem key={one.slug} value={one.slug}>
              {one.name}
            </MenuItem>
          ))}
        </TextField>
        {told.isError && <Alert severity="error">{sentenceOf(told.error)}</Alert>}
        {wrong && <Alert severity="error">{wrong}</Alert>}
        {found && <p>{t("recordings.found", { n: count(found.pairs), of: count(found.pairs + found.left) })}</p>}
        {found && found.pairs > 0 && (
          <table className="listed">
            <tbody>
              {found.first.slice(0, SHOWN).map((pair) => (
                <tr key={pair.recording}>
                  <th scope="row" className="mono">
                    {pair.recording}
                  </th>
                  <td className="mono">{pair.line}</td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
        {found && found.left > 0 && (
          <p className="soft">
            {t("recordings.without", { first: found.without.slice(0, SHOWN).join(" · "), n: found.left })}
          </p>
        )}
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>{t("cancel")}</Button>
        <Button variant="contained" disabled={busy || !found?.pairs} onClick={tie}>
          {t("recordings.tie")}
        </Button>
      </DialogActions>
    </Dialog>
  );
}
