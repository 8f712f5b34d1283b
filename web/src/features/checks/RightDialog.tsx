import { Alert, Button, Dialog, DialogActions, DialogContent, DialogTitle, TextField } from "@mui/material";
import { useState } from "react";
import { ask, sentenceOf, type Schemas } from "../../api/client";
import { t } from "../../words/words";

interface Props {
  place: Schemas["FindingPlace"];
  kind: string;
  onDone: () => void;
}

/** Says why something that was found is right in a text. */
export function RightDialog({ place, kind, onDone }: Props) {
  const [reason, setReason] = useState("");
  const [wrong, setWrong] = useState("");
  const [busy, setBusy] = useState(false);
  return (
    <Dialog open onClose={onDone} maxWidth="sm" fullWidth aria-labelledby="right-title">
      <form
        onSubmit={(event) => {
          event.preventDefault();
          setBusy(true);
          ask(`/api/entries/${place.entry}/cells/${encodeURIComponent(place.language)}/exceptions/${kind}`, {
            method: "PUT",
            json: { text: place.ofSource ? undefined : place.text, reason },
          })
            .then(onDone)
            .catch((failure: unknown) => {
              setWrong(sentenceOf(failure));
              setBusy(false);
            });
        }}
      >
        <DialogTitle id="right-title">{t("checks.rightTitle")}</DialogTitle>
        <DialogContent>
          <p className="soft">{t("checks.rightWords")}</p>
          <TextField
            autoFocus
            fullWidth
            required
            size="small"
            margin="dense"
            label={t("checks.rightReason")}
            value={reason}
            onChange={(event) => setReason(event.target.value)}
          />
          {wrong && <Alert severity="error">{wrong}</Alert>}
        </DialogContent>
        <DialogActions>
          <Button onClick={onDone}>{t("cancel")}</Button>
          <Button type="submit" variant="contained" disabled={busy || reason.trim() === ""}>
            {t("checks.rightSave")}
          </Button>
        </DialogActions>
      </form>
    </Dialog>
  );
}
