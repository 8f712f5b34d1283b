import {
  Alert,
  Button,
  Checkbox,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  FormControlLabel,
  MenuItem,
  TextField,
} from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { ask, type Schemas } from "../../api/client";
import { t } from "../../words/words";
import type { Row } from "../../sheet/rowStore";
import { useTables } from "../../scope/useTables";
import { useEntryChange, type EntriesChanged } from "./useEntry";
import "../../parts/form.css";

interface Props {
  row: Row;
  onDone: (changed: EntriesChanged) => void;
  onClose: () => void;
}

/** Moves an entry within its table or into another; its texts and story go along. */
export function MoveDialog({ row, onDone, onClose }: Props) {
  const tables = useTables();
  const [table, setTable] = useState(row.table);
  const [after, setAfter] = useState("");
  const [addLanguages, setAddLanguages] = useState(false);
  const { busy, wrong, setWrong, send } = useEntryChange(onDone);
  const neighbours = useQuery({
    queryKey: ["neighbours", table, after],
    queryFn: ({ signal }) =>
      ask<Schemas["FoundReply"]>(`/api/find?words=${encodeURIComponent(after.trim())}`, { signal }),
    enabled: after.trim() !== "",
  });
  const follows = neighbours.data?.entries.find((one) => one.table === table && one.key === after.trim());
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm" aria-labelledby="move-title">
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (after.trim() !== "" && !follows) {
            setWrong(t("entry.noSuchKey", { key: after.trim() }));
            return;
          }
          void send("/api/entries/place", "POST", {
            entries: [row.id],
            table,
            after: follows?.entry,
            addLanguages,
          });
        }}
      >
        <DialogTitle id="move-title">{t("entry.moveTitle", { key: row.key })}</DialogTitle>
        <DialogContent className="entry-form">
          <TextField
            label={t("entry.intoTable")}
            size="small"
            select
            fullWidth
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
            label={t("entry.after")}
            size="small"
            fullWidth
            value={after}
            onChange={(event) => setAfter(event.target.value)}
            helperText={t("entry.afterHint")}
            slotProps={{ htmlInput: { className: "mono" } }}
          />
          {table !== row.table && (
            <FormControlLabel
              control={<Checkbox size="small" checked={addLanguages} onChange={(_, on) => setAddLanguages(on)} />}
              label={t("entry.addLanguages")}
            />
          )}
          {wrong && <Alert severity="error">{wrong}</Alert>}
        </DialogContent>
        <DialogActions>
          <Button onClick={onClose}>{t("cancel")}</Button>
          <Button type="submit" variant="contained" disabled={busy}>
            {t("entry.moveDo")}
          </Button>
        </DialogActions>
      </form>
    </Dialog>
  );
}
