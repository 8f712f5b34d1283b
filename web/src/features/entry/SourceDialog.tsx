import {
  Alert,
  Button,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  FormControlLabel,
  Radio,
  RadioGroup,
} from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { ask } from "../../api/client";
import { listed, nameOfTag, t } from "../../words/words";
import { useTables } from "../../scope/useTables";
import type { Row } from "../../sheet/rowStore";
import { formsOf, MAIN, sameForms, type Forms } from "../../text/shapes";
import { DiffShown } from "../../text/TextShown";
import { wordDiff } from "../../text/wordDiff";
import { FormsFields } from "./FormsFields";
import { useEntryChange, type EntriesChanged } from "./useEntry";
import "../../parts/form.css";

interface Props {
  row: Row;
  onDone: (changed: EntriesChanged) => void;
  onClose: () => void;
}

/** Rewrites a source, and asks the one question that matters: did the meaning change? */
export function SourceDialog({ row, onDone, onClose }: Props) {
  const before = formsOf(row.source, row.sourceForms);
  const [forms, setForms] = useState<Forms>(before);
  const [meaning, setMeaning] = useState(true);
  const { busy, wrong, send } = useEntryChange(onDone);
  const tables = useTables();
  const table = tables.data?.find((one) => one.slug === row.table);
  const stale = useQuery({
    queryKey: ["going-stale", row.id, row.version],
    queryFn: ({ signal }) => ask<string[]>(`/api/entries/${row.id}/going-stale`, { signal }),
    staleTime: 0,
  });
  const names = (stale.data ?? []).map((tag) => nameOfTag(tag, table?.languages));
  const same = sameForms(forms, before);
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm" aria-labelledby="rewrite-title">
      <form
        onSubmit={(event) => {
          event.preventDefault();
          void send(`/api/entries/${row.id}/source`, "POST", {
            version: row.version,
            source: forms,
            meaningChanged: meaning,
          });
        }}
      >
        <DialogTitle id="rewrite-title">{t("entry.rewriteTitle", { key: row.key })}</DialogTitle>
        <DialogContent className="entry-form">
          <FormsFields
            shape={row.shape}
            language={table?.source}
            forms={forms}
            onForms={setForms}
            label={t("entry.source")}
          />
          {!same && row.shape === "plain" && (
            <p className="diff">
              <DiffShown runs={wordDiff(row.source, forms[MAIN] ?? "")} />
            </p>
          )}
          <RadioGroup
            aria-label={t("entry.meaning")}
            value={meaning ? "yes" : "no"}
            onChange={(_, value) => setMeaning(value === "yes")}
          >
            <p className="question">{t("entry.meaning")}</p>
            <FormControlLabel
              value="yes"
              control={<Radio size="small" />}
              label={
                stale.data === undefined
                  ? t("entry.meaningYesAsking")
                  : names.length === 0
                    ? t("entry.meaningYesNone")
                    : t("entry.meaningYes", { n: names.length, languages: listed(names) })
              }
            />
            <FormControlLabel value="no" control={<Radio size="small" />} label={t("entry.meaningNo")} />
          </RadioGroup>
          {wrong && <Alert severity="error">{wrong}</Alert>}
        </DialogContent>
        <DialogActions>
          <Button onClick={onClose}>{t("cancel")}</Button>
          <Button
            type="submit"
            variant="contained"
            disabled={busy || same || Object.values(forms).every((one) => one === "")}
          >
            {t("entry.rewriteDo")}
          </Button>
        </DialogActions>
      </form>
    </Dialog>
  );
}
