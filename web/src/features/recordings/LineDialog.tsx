import { Alert, Button, Dialog, DialogActions, DialogContent, DialogTitle, MenuItem, TextField } from "@mui/material";
import { useState } from "react";
import { ask, sentenceOf } from "../../api/client";
import { useTables } from "../../scope/useTables";
import type { Row } from "../../sheet/rowStore";
import { t } from "../../words/words";
import "../../parts/form.css";

interface Props {
  row: Row;
  onDone: () => void;
  onClose: () => void;
}

/** Says which line a recording speaks, or that it speaks none. */
export function LineDialog({ row, onDone, onClose }: Props) {
  const tables = useTables();
  const [table, setTable] = useState(row.line?.table ?? row.table);
  const [key, setKey] = useState(row.line?.key ?? "");
  const [wrong, setWrong] = useState("");
  const [busy, setBusy] = useState(false);
  const send = (tie: boolean) => {
    setBusy(true);
    setWrong("");
    ask(`/api/entries/${row.id}/line`, tie ? { method: "PUT", json: { table, key: key.trim() } } : { method: "DELETE" })
      .then(onDone)
      .catch((failure: unknown) => setWrong(sentenceOf(failure)))
      .finally(() => setBusy(false));
  };
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm" aria-labelledby="line-title">
      <form
        onSubmit={(event) => {
          event.preventDefault();
          send(true);
        }}
      >
        <DialogTitle id="line-title">{t("line.title", { key: row.key })}</DialogTitle>
        <DialogContent className="entry-form">
          <p className="soft">{t("line.words")}</p>
          <TextField
            select
            size="small"
            fullWidth
            label={t("line.table")}
            value={table}
            onChange={(event) => setTable(event.target.value)}
          >
            {(tables.data ?? []).map((one) => (
              <MenuItem key={one.slug} value={one.slug}>
                {one.name}
              </MenuItem>
            ))}
          </TextField>
          <TextField
            size="small"
            fullWidth
            autoFocus
            label={t("line.key")}
            value={key}
            onChange={(event) => setKey(event.target.value)}
            slotProps={{ htmlInput: { className: "mono" } }}
          />
          {wrong && <Alert severity="error">{wrong}</Alert>}
        </DialogContent>
        <DialogActions>
          {row.line && (
            <Button disabled={busy} onClick={() => send(false)}>
              {t("line.none")}
            </Button>
          )}
          <Button onClick={onClose}>{t("cancel")}</Button>
          <Button type="submit" variant="contained" disabled={busy || key.trim() === ""}>
            {t("line.say")}
          </Button>
        </DialogActions>
      </form>
    </Dialog>
  );
}
