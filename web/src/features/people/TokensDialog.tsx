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
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { ask, sentenceOf, type Schemas } from "../../api/client";
import { day, listed, t, when } from "../../words/words";
import { useTables } from "../../scope/useTables";

const DAYS = [7, 30, 90, 365];

/** Tokens for programs: what there are, making one, ending one. */
export function TokensDialog({ onClose }: { onClose: () => void }) {
  const queries = useQueryClient();
  const tables = useTables();
  const tokens = useQuery({
    queryKey: ["tokens"],
    queryFn: ({ signal }) => ask<Schemas["TokenReply"][]>("/api/tokens", { signal }),
  });
  const [name, setName] = useState("");
  const [takesIn, setTakesIn] = useState(true);
  const [sendsOut, setSendsOut] = useState(true);
  const [table, setTable] = useState("");
  const [days, setDays] = useState(90);
  const again = () => queries.invalidateQueries({ queryKey: ["tokens"] });
  const make = useMutation({
    mutationFn: () =>
      ask<Schemas["SecretReply"]>("/api/tokens", {
        method: "POST",
        json: { name, takesIn, sendsOut, table: table || undefined, days },
      }),
    onSuccess: () => {
      setName("");
      return again();
    },
  });
  const end = useMutation({
    mutationFn: (id: number) => ask<undefined>(`/api/tokens/${id}`, { method: "DELETE" }),
    onSuccess: again,
  });
  const wrong = tokens.error ?? make.error ?? end.error;
  return (
    <Dialog open onClose={onClose} aria-labelledby="tokens-title" fullWidth maxWidth="md">
      <DialogTitle id="tokens-title">{t("tokens.title")}</DialogTitle>
      <DialogContent>
        {wrong && <Alert severity="error">{sentenceOf(wrong)}</Alert>}
        {make.data && (
          <Alert severity="success">
            {t("tokens.secret")}
            <br />
            <code className="secret">{make.data.secret}</code>
          </Alert>
        )}
        <p className="soft">{t("tokens.words")}</p>
        <div className="tokenform">
          <TextField size="small" label={t("tokens.name")} value={name} onChange={(e) => setName(e.target.value)} />
          <TextField
            select
            size="small"
            label={t("tokens.table")}
            value={table}
            slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true } }}
            onChange={(e) => setTable(e.target.value)}
          >
            <MenuItem value="">{t("tokens.allTables")}</MenuItem>
            {tables.data?.map((one) => (
              <MenuItem key={one.slug} value={one.slug}>
                {one.name}
              </MenuItem>
            ))}
          </TextField>
          <TextField
            select
            size="small"
            label={t("tokens.lasts")}
            value={days}
            onChange={(e) => setDays(Number(e.target.value))}
          >
            {DAYS.map((n) => (
              <MenuItem key={n} value={n}>
                {t("tokens.days", { n })}
              </MenuItem>
            ))}
          </TextField>
          <FormControlLabel
            control={<Checkbox size="small" checked={takesIn} onChange={(e) => setTakesIn(e.target.checked)} />}
            label={t("tokens.takesIn")}
          />
          <FormControlLabel
            control={<Checkbox size="small" checked={sendsOut} onChange={(e) => setSendsOut(e.target.checked)} />}
            label={t("tokens.sendsOut")}
          />
          <Button variant="contained" disabled={!name.trim() || make.isPending} onClick={() => make.mutate()}>
            {t("tokens.make")}
          </Button>
        </div>
        {tokens.data?.length === 0 && <p className="soft">{t("tokens.none")}</p>}
        {tokens.data && tokens.data.length > 0 && (
          <table className="tokens">
            <thead>
              <tr>
                {(
                  ["tokens.name", "tokens.table", "tokens.may", "tokens.by", "tokens.until", "tokens.used"] as const
                ).map((key) => (
                  <th key={key} scope="col">
                    {t(key)}
                  </th>
                ))}
                <td />
              </tr>
            </thead>
            <tbody>
              {tokens.data.map((one) => (
                <tr key={one.id}>
                  <th scope="row">{one.name}</th>
                  <td>{one.tableName ?? t("tokens.allTables")}</td>
                  <td>
                    {listed([
                      ...(one.takesIn ? [t("tokens.takesIn")] : []),
                      ...(one.sendsOut ? [t("tokens.sendsOut")] : []),
                    ])}
                  </td>
                  <td>{one.person}</td>
                  <td>{day(one.expiresAt)}</td>
                  <td>{one.usedAt ? when(one.usedAt) : t("tokens.never")}</td>
                  <td>
                    <Button
                      size="small"
                      color="error"
                      aria-label={t("tokens.endNamed", { name: one.name })}
                      disabled={end.isPending}
                      onClick={() => end.mutate(one.id)}
                    >
                      {t("tokens.end")}
                    </Button>
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>{t("close")}</Button>
      </DialogActions>
    </Dialog>
  );
}
