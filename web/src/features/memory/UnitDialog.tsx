import { Alert, Button, Dialog, DialogActions, DialogContent, DialogTitle, TextField } from "@mui/material";
import { useState } from "react";
import { ask, sentenceOf, type Schemas } from "../../api/client";
import { TextShown } from "../../text/TextShown";
import { t } from "../../words/words";

interface Props {
  unit: Schemas["UnitReply"];
  language: Schemas["LanguageName"] | undefined;
  onDone: () => void;
  onClose: () => void;
}

/** Mends the text of a unit of a shelf. */
export function UnitDialog({ unit, language, onDone, onClose }: Props) {
  const [text, setText] = useState(unit.text);
  const [wrong, setWrong] = useState("");
  const [busy, setBusy] = useState(false);
  const mend = async () => {
    setBusy(true);
    try {
      await ask(`/api/memory/units/${unit.unit}`, { method: "PUT", json: { version: unit.version, text } });
      onDone();
    } catch (failure) {
      setWrong(sentenceOf(failure));
      setBusy(false);
    }
  };
  return (
    <Dialog open onClose={onClose} maxWidth="sm" fullWidth aria-labelledby="unit-title">
      <form
        onSubmit={(event) => {
          event.preventDefault();
          void mend();
        }}
      >
        <DialogTitle id="unit-title">{t("memory.mendTitle", { shelf: unit.shelf })}</DialogTitle>
        <DialogContent className="entry-form">
          {wrong && <Alert severity="error">{wrong}</Alert>}
          <p>
            <TextShown text={unit.source} />
          </p>
          <TextField
            size="small"
            multiline
            autoFocus
            label={t("memory.side.TEXT")}
            value={text}
            slotProps={{ htmlInput: { lang: language?.tag, dir: language?.rightToLeft ? "rtl" : "ltr" } }}
            onChange={(event) => setText(event.target.value)}
          />
        </DialogContent>
        <DialogActions>
          <Button onClick={onClose}>{t("cancel")}</Button>
          <Button type="submit" variant="contained" disabled={busy || text.trim() === "" || text === unit.text}>
            {t("save")}
          </Button>
        </DialogActions>
      </form>
    </Dialog>
  );
}
