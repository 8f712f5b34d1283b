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
  Radio,
  RadioGroup,
  TextField,
} from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { ask, sentenceOf, type Schemas } from "../../api/client";
import { t } from "../../words/words";

interface Props {
  table: Schemas["TableReply"];
  /** The languages of the scope, chosen at first. */
  languages: string[];
  open: boolean;
  onClose: () => void;
}

/** Sends a table out: in place where it came from a file, else fresh. */
export function ExportDialog({ table, languages, open, onClose }: Props) {
  const base = `/api/tables/${encodeURIComponent(table.slug)}/export`;
  const files = useQuery({
    queryKey: ["export-files", table.slug],
    queryFn: ({ signal }) => ask<string[]>(`${base}/files`, { signal }),
    enabled: open,
  });
  const [mode, setMode] = useState<"in-place" | "fresh" | null>(null);
  const [file, setFile] = useState<string | null>(null);
  const [all, setAll] = useState(true);
  const [delimiter, setDelimiter] = useState("comma");
  const [onlySettled, setOnlySettled] = useState(false);
  const [guard, setGuard] = useState(true);
  const [busy, setBusy] = useState(false);
  const [wrong, setWrong] = useState<string | null>(null);
  const paths = files.data ?? [];
  const chosen = mode ?? (paths.length > 0 ? "in-place" : "fresh");
  const path = file ?? paths[0] ?? "";

  const send = async () => {
    setBusy(true);
    setWrong(null);
    try {
      const query = new URLSearchParams(
        chosen === "in-place"
          ? { file: path }
          : { in: all ? "" : languages.join(","), onlySettled: String(onlySettled), delimiter, guard: String(guard) },
      );
      await download(
        `${base}/${chosen}?${query}`,
        chosen === "in-place" ? path.slice(path.lastIndexOf("/") + 1) : `${table.slug}.csv`,
      );
      onClose();
    } catch (failure) {
      setWrong(sentenceOf(failure));
    } finally {
      setBusy(false);
    }
  };

  return (
    <Dialog open={open} onClose={onClose} aria-labelledby="export-title" fullWidth maxWidth="sm">
      <DialogTitle id="export-title">{t("export.title", { table: table.name })}</DialogTitle>
      <DialogContent>
        {(wrong ?? files.error) && <Alert severity="error">{wrong ?? sentenceOf(files.error)}</Alert>}
        <RadioGroup
          value={chosen}
          onChange={(event) => setMode(event.target.value as "fresh")}
          aria-label={t("export.how")}
        >
          <FormControlLabel
            value="in-place"
            disabled={paths.length === 0}
            control={<Radio size="small" />}
            label={t(paths.length > 0 ? "export.inPlace" : "export.noFile")}
          />
          <FormControlLabel value="fresh" control={<Radio size="small" />} label={t("export.fresh")} />
        </RadioGroup>
        {chosen === "in-place" ? (
          <TextField
            select
            size="small"
            margin="dense"
            fullWidth
            label={t("export.file")}
            value={path}
            onChange={(event) => setFile(event.target.value)}
          >
            {paths.map((one) => (
              <MenuItem key={one} value={one}>
                {one}
              </MenuItem>
            ))}
          </TextField>
        ) : (
          <>
            <TextField
              select
              size="small"
              margin="dense"
              fullWidth
              label={t("export.languages")}
              value={all ? "all" : "scope"}
              onChange={(event) => setAll(event.target.value === "all")}
            >
              <MenuItem value="all">{t("export.allLanguages", { n: table.languages.length })}</MenuItem>
              <MenuItem value="scope">{languages.join(", ")}</MenuItem>
            </TextField>
            <TextField
              select
              size="small"
              margin="dense"
              fullWidth
              label={t("reading.delimiter")}
              value={delimiter}
              onChange={(event) => setDelimiter(event.target.value)}
            >
              {(["comma", "semicolon", "tab"] as const).map((one) => (
                <MenuItem key={one} value={one}>
                  {t(`export.${one}`)}
                </MenuItem>
              ))}
            </TextField>
            <FormControlLabel
              control={
                <Checkbox
                  size="small"
                  checked={onlySettled}
                  onChange={(event) => setOnlySettled(event.target.checked)}
                />
              }
              label={t("export.onlySettled")}
            />
            <FormControlLabel
              control={<Checkbox size="small" checked={guard} onChange={(event) => setGuard(event.target.checked)} />}
              label={t("export.guard")}
            />
          </>
        )}
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>{t("close")}</Button>
        <Button variant="contained" disabled={busy || files.isPending} onClick={() => void send()}>
          {t("export.send")}
        </Button>
      </DialogActions>
    </Dialog>
  );
}

/** Saves a reply as a file, after it arrived whole: a refusal is a sentence on the screen and not a file. */
async function download(path: string, name: string): Promise<void> {
  const response = await fetch(path);
  if (!response.ok) {
    const problem = (await response.json()) as { detail?: string };
    throw new Error(problem.detail ?? t("export.failed"));
  }
  const address = URL.createObjectURL(await response.blob());
  const link = document.createElement("a");
  link.href = address;
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(address), 60_000);
}
