import { Alert, Button, Dialog, DialogActions, DialogContent, DialogTitle, TextField } from "@mui/material";
import { useState } from "react";
import { ask, sentenceOf } from "../../api/client";
import { t } from "../../words/words";

interface Props {
  slug: string;
  number: number;
  onDone: () => void;
  onClose: () => void;
}

/** Recalls a delivery with a reason. */
export function RecallDialog({ slug, number, onDone, onClose }: Props) {
  const [reason, setReason] = useState("");
  const [wrong, setWrong] = useState("");
  const [busy, setBusy] = useState(false);
  const recall = () => {
    if (reason.trim() === "") {
      setWrong(t("recall.sayWhy"));
      return;
    }
    setBusy(true);
    ask(`/api/products/${encodeURIComponent(slug)}/deliveries/${number}/recall`, { method: "POST", json: { reason } })
      .then(onDone)
      .catch((failure: unknown) => setWrong(sentenceOf(failure)))
      .finally(() => setBusy(false));
  };
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm" aria-labelledby="recall-title">
      <form
        onSubmit={(event) => {
          event.preventDefault();
          recall();
        }}
      >
        <DialogTitle id="recall-title">{t("recall.title", { number })}</DialogTitle>
        <DialogContent>
          <p>{t("recall.words")}</p>
          <TextField
            label={t("recall.reason")}
            size="small"
            fullWidth
            autoFocus
            value={reason}
            onChange={(event) => setReason(event.target.value)}
          />
          {wrong && <Alert severity="error">{wrong}</Alert>}
        </DialogContent>
        <DialogActions>
          <Button onClick={onClose}>{t("cancel")}</Button>
          <Button type="submit" variant="contained" disabled={busy} color="error">
            {t("delivery.recall")}
          </Button>
        </DialogActions>
      </form>
    </Dialog>
  );
}
