import {
  Alert,
  Button,
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
import { FreshChoices, queryOf, USUAL, type Fresh } from "./FreshChoices";
import { Losses } from "./Losses";
import "./exporting.css";

interface Props {
  table: Schemas["TableReply"];
  /** The languages of the scope, chosen at first. */
  languages: string[];
  /** The states that the scope asks for; none for all entries. */
  only?: string[];
  onClose: () => void;
}

/** Sends a table out: in place where it came from a file, else fresh. */
export function ExportDialog({ table, languages, only = [], onClose }: Props) {
  const base = `/api/tables/${encodeURIComponent(table.slug)}/export`;
  const files = useQuery({
    queryKey: ["export-files", table.slug],
    queryFn: ({ signal }) => ask<string[]>(`${base}/files`, { signal }),
  });
  const set = useQuery({
    queryKey: ["export-set", table.slug],
    queryFn: ({ signal }) => ask<Schemas["OutFile"][]>(`${base}/set-files`, { signal }),
  });
  const [mode, setMode] = useState<"set" | "in-place" | "fresh" | null>(null);
  const [chosenFiles, setChosenFiles] = useState<string[] | null>(null);
  const [fresh, setFresh] = useState<Fresh>(USUAL);
  const [busy, setBusy] = useState(false);
  const [wrong, setWrong] = useState<string | null>(null);
  const paths = files.data ?? [];
  const made = set.data?.filter((file) => file.made) ?? [];
  const came = set.data?.filter((file) => !file.made) ?? [];
  const chosen = mode ?? (came.length > 0 ? "set" : paths.length > 0 ? "in-place" : "fresh");
  const masters = chosenFiles ?? paths.slice(0, 1);

  const query = queryOf(fresh, table, languages, only);

  const send = async () => {
    setBusy(true);
    setWrong(null);
    try {
      await download(
        chosen === "set"
          ? `${base}/set`
          : chosen === "in-place"
            ? `${base}/in-place?${new URLSearchParams(masters.map((path) => ["file", path]))}`
            : `${base}/fresh?${query}`,
      );
      onClose();
    } catch (failure) {
      setWrong(sentenceOf(failure));
    } finally {
      setBusy(false);
    }
  };

  return (
    <Dialog open onClose={onClose} aria-labelledby="export-title" fullWidth maxWidth="sm">
      <DialogTitle id="export-title">{t("export.title", { table: table.name })}</DialogTitle>
      <DialogContent>
        {(wrong ?? files.error ?? set.error) && (
          <Alert severity="error">{wrong ?? sentenceOf(files.error ?? set.error)}</Alert>
        )}
        <RadioGroup
          value={chosen}
          onChange={(event) => setMode(event.target.value as "fresh")}
          aria-label={t("export.how")}
        >
          {came.length > 0 && (
            <FormControlLabel
              value="set"
              control={<Radio size="small" />}
              label={`${t("export.set", { n: came.length })}${made.length > 0 ? `, ${t("export.setNew", { n: made.length })}` : ""}`}
            />
          )}
          <FormControlLabel
            value="in-place"
            disabled={paths.length === 0}
            control={<Radio size="small" />}
            label={t(paths.length > 0 ? "export.inPlace" : "export.noFile")}
          />
          <FormControlLabel value="fresh" control={<Radio size="small" />} label={t("export.fresh")} />
        </RadioGroup>
        {chosen === "set" ? (
          <>
            <p className="soft">{t("export.setWords")}</p>
            {made.length > 0 && (
              <ul className="newfiles">
                {made.map((file) => (
                  <li key={file.path}>{file.path}</li>
                ))}
              </ul>
            )}
          </>
        ) : chosen === "in-place" ? (
          <TextField
            select
            size="small"
            margin="dense"
            fullWidth
            label={t("export.file")}
            value={masters}
            helperText={masters.length > 1 ? t("export.zip") : undefined}
            slotProps={{ select: { multiple: true } }}
            onChange={(event) => setChosenFiles(event.target.value as unknown as string[])}
          >
            {paths.map((one) => (
              <MenuItem key={one} value={one}>
                {one}
              </MenuItem>
            ))}
          </TextField>
        ) : (
          <>
            <FreshChoices table={table} languages={languages} only={only} fresh={fresh} onChange={setFresh} />
            <Losses
              base={base}
              query={query}
              leaveOut={fresh.leaveOut}
              onLeaveOut={(leaveOut) => setFresh({ ...fresh, leaveOut })}
            />
          </>
        )}
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>{t("close")}</Button>
        <Button
          variant="contained"
          disabled={busy || files.isPending || set.isPending || (chosen === "in-place" && masters.length === 0)}
          onClick={() => void send()}
        >
          {t("export.send")}
        </Button>
      </DialogActions>
    </Dialog>
  );
}

/** Saves a reply as a file of the name that the server gives it, after it arrived whole: a refusal is a sentence on the screen and not a file. */
async function download(path: string): Promise<void> {
  const response = await fetch(path);
  if (!response.ok) {
    const problem = (await response.json()) as { detail?: string };
    throw new Error(problem.detail ?? t("export.failed"));
  }
  const address = URL.createObjectURL(await response.blob());
  const link = document.createElement("a");
  link.href = address;
  link.download = nameIn(response.headers.get("Content-Disposition") ?? "");
  link.click();
  setTimeout(() => URL.revokeObjectURL(address), 60_000);
}

/** The file name of RFC 6266: the spelling in UTF-8 where there is one. */
function nameIn(disposition: string): string {
  const spelled = /filename\*=UTF-8''([^;]+)/i.exec(disposition)?.[1];
  return spelled ? decodeURIComponent(spelled) : (/filename="([^"]+)"/.exec(disposition)?.[1] ?? "export");
}
