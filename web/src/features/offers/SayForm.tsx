import { Button, TextField } from "@mui/material";
import { useState } from "react";
import { t } from "../../words/words";
import "./offers.css";

interface SayProps {
  was: string;
  onSay: (note: string) => void;
  onClose: () => void;
}

/** What the author of an offer says to the reviewer. */
export function SayForm({ was, onSay, onClose }: SayProps) {
  const [note, setNote] = useState(was);
  return (
    <form
      className="improve"
      onSubmit={(event) => {
        event.preventDefault();
        onSay(note.trim());
      }}
    >
      <NoteField note={note} onNote={setNote} autoFocus onClose={onClose} />
      <p className="answers">
        <Button size="small" type="submit" variant="contained">
          {t("offers.saySend")}
        </Button>
        <Button size="small" onClick={onClose}>
          {t("cancel")}
        </Button>
      </p>
    </form>
  );
}

interface NoteFieldProps {
  note: string;
  onNote: (note: string) => void;
  onClose: () => void;
  autoFocus?: boolean;
}

/** One line to the reviewer. */
export function NoteField({ note, onNote, onClose, autoFocus = false }: NoteFieldProps) {
  return (
    <TextField
      size="small"
      fullWidth
      autoFocus={autoFocus}
      label={t("offers.note")}
      value={note}
      slotProps={{ htmlInput: { maxLength: 2000 } }}
      onChange={(event) => onNote(event.target.value)}
      onKeyDown={(event) => event.key === "Escape" && onClose()}
    />
  );
}
