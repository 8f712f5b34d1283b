import {
  Button,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  IconButton,
  List,
  ListItem,
  ListItemButton,
  ListItemText,
  TextField,
} from "@mui/material";
import { useState } from "react";
import { t } from "../../words/words";
import { reasons } from "./reasons";

interface Props {
  /** How many offers go back. */
  n: number;
  onReturn: (reason: string) => void;
  onClose: () => void;
}

/** Why offers go back: one of a short list of one's own, or other words. */
export function ReturnDialog({ n, onReturn, onClose }: Props) {
  const [listed, setListed] = useState(() => reasons.all());
  const [words, setWords] = useState("");
  const give = (reason: string) => {
    reasons.used(reason);
    onReturn(reason);
  };
  return (
    <Dialog open onClose={onClose} maxWidth="xs" fullWidth aria-labelledby="return-title">
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (words.trim() !== "") give(words.trim());
        }}
      >
        <DialogTitle id="return-title">{t("review.returnTitle", { n })}</DialogTitle>
        <DialogContent>
          <TextField
            size="small"
            fullWidth
            autoFocus
            label={t("footnotes.reason")}
            value={words}
            sx={{ mt: 1 }}
            slotProps={{ htmlInput: { maxLength: 2000 } }}
            onChange={(event) => setWords(event.target.value)}
          />
          <List dense aria-label={t("review.reasons")}>
            {listed.map((reason) => (
              <ListItem
                key={reason}
                disablePadding
                secondaryAction={
                  <IconButton
                    edge="end"
                    size="small"
                    aria-label={t("review.dropReason", { reason })}
                    onClick={() => {
                      reasons.drop(reason);
                      setListed(reasons.all());
                    }}
                  >
                    ×
                  </IconButton>
                }
              >
                <ListItemButton onClick={() => give(reason)}>
                  <ListItemText primary={reason} />
                </ListItemButton>
              </ListItem>
            ))}
          </List>
        </DialogContent>
        <DialogActions>
          <Button onClick={onClose}>{t("cancel")}</Button>
          <Button type="submit" color="error" variant="contained" disabled={words.trim() === ""}>
            {t("footnotes.return")}
          </Button>
        </DialogActions>
      </form>
    </Dialog>
  );
}
