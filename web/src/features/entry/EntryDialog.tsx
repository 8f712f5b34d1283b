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
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { t } from "../../words/words";
import type { Row } from "../../sheet/rowStore";
import type { Forms } from "../../text/shapes";
import { useTables } from "../../scope/useTables";
import { FormsFields } from "./FormsFields";
import { PictureField } from "./PictureField";
import { useEntryChange, type EntriesChanged } from "./useEntry";
import "../../parts/form.css";

const SHAPES = ["plain", "plural", "states", "asset"] as const;

interface Props {
  table: string;
  /** The entry to describe, null to make a new one. */
  row: Row | null;
  /** The section that a new one begins with. */
  section?: string;
  /** The entry that a new one follows, null for the end. */
  after: number | null;
  onDone: (changed: EntriesChanged) => void;
  onClose: () => void;
}

/** All that is said about an entry beside its texts; for a new one also its shape and source. */
export function EntryDialog({ table, row, section = "", after, onDone, onClose }: Props) {
  const [said, setSaid] = useState<Schemas["Description"]>(() => described(row, section));
  const [tags, setTags] = useState((row?.tags ?? []).join(", "));
  const [shape, setShape] = useState<string>("plain");
  const [source, setSource] = useState<Forms>({});
  const { busy, wrong, setWrong, send } = useEntryChange(onDone);
  const tables = useTables();
  const language = tables.data?.find((one) => one.slug === table)?.source;
  const set = (part: Partial<Schemas["Description"]>) => setSaid((before) => ({ ...before, ...part }));
  const submit = () => {
    const description = {
      ...said,
      tags: tags
        .split(",")
        .map((tag) => tag.trim())
        .filter((tag) => tag !== ""),
    };
    if (row) void send(`/api/entries/${row.id}`, "PUT", { version: row.version, description });
    else void send(`/api/tables/${encodeURIComponent(table)}/entries`, "POST", { shape, description, source, after });
  };
  const text = (field: "key" | "context" | "section" | "note" | "reference", multiline = false) => (
    <TextField
      label={t(`entry.${field}`)}
      size="small"
      fullWidth
      multiline={multiline}
      required={field === "key"}
      autoFocus={field === "key"}
      value={said[field]}
      onChange={(event) => set({ [field]: event.target.value })}
      slotProps={field === "key" || field === "reference" ? { htmlInput: { className: "mono" } } : undefined}
    />
  );
  const amount = (field: "maxLength" | "maxLines" | "maxWidth") => (
    <TextField
      label={t(`entry.${field}`)}
      size="small"
      type="number"
      value={said[field] === 0 ? "" : (said[field] ?? "")}
      onChange={(event) => set({ [field]: Math.max(0, Math.floor(Number(event.target.value) || 0)) })}
      slotProps={{ htmlInput: { min: 0 } }}
      helperText={t("entry.noLimit")}
    />
  );
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="md" aria-labelledby="entry-title">
      <form
        onSubmit={(event) => {
          event.preventDefault();
          submit();
        }}
      >
        <DialogTitle id="entry-title">
          {row ? t("entry.describeTitle", { key: row.key }) : t("entry.newTitle")}
        </DialogTitle>
        <DialogContent className="entry-form two">
          <div>
            {text("key")}
            {text("context")}
            {text("section")}
            <div className="pair">
              {amount("maxLength")}
              {amount("maxLines")}
              {amount("maxWidth")}
            </div>
            <TextField
              label={t("entry.tags")}
              size="small"
              fullWidth
              value={tags}
              onChange={(event) => setTags(event.target.value)}
              helperText={t("entry.tagsHint")}
            />
            <FormControlLabel
              control={
                <Checkbox checked={!said.translatable} onChange={(_, on) => set({ translatable: !on })} size="small" />
              }
              label={t("entry.notForTranslation")}
            />
          </div>
          <div>
            {!row && (
              <>
                <TextField
                  label={t("entry.shape")}
                  size="small"
                  select
                  fullWidth
                  value={shape}
                  onChange={(event) => {
                    setShape(event.target.value);
                    setSource({});
                  }}
                >
                  {SHAPES.map((one) => (
                    <MenuItem key={one} value={one}>
                      {t(`shape.${one}`)}
                    </MenuItem>
                  ))}
                </TextField>
                <FormsFields
                  shape={shape}
                  language={language}
                  forms={source}
                  onForms={setSource}
                  label={t("entry.source")}
                />
              </>
            )}
            {text("note", true)}
            {text("reference", true)}
            {row && <PictureField row={row} onDone={onDone} onWrong={setWrong} />}
          </div>
          {wrong && (
            <Alert severity="error" className="wide">
              {wrong}
            </Alert>
          )}
        </DialogContent>
        <DialogActions>
          <Button onClick={onClose}>{t("cancel")}</Button>
          <Button type="submit" variant="contained" disabled={busy || said.key.trim() === ""}>
            {row ? t("save") : t("entry.create")}
          </Button>
        </DialogActions>
      </form>
    </Dialog>
  );
}

function described(row: Row | null, section: string): Schemas["Description"] {
  return {
    key: row?.key ?? "",
    context: row?.context ?? "",
    note: row?.note ?? "",
    reference: row?.reference ?? "",
    section: row?.section ?? section,
    maxLength: row?.maxLength ?? 0,
    maxLines: row?.maxLines ?? 0,
    maxWidth: row?.maxWidth ?? 0,
    tags: row?.tags ?? [],
    translatable: row?.translatable ?? true,
  };
}
