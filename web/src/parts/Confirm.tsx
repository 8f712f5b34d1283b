import { Button, Dialog, DialogActions, DialogContent, DialogContentText, DialogTitle } from "@mui/material";
import { t } from "../words/words";

interface Props {
  title: string;
  /** What will be lost, and how it comes back. */
  words: string;
  action: string;
  onYes: () => void;
  onNo: () => void;
}

/** Asks before something is taken away. */
export function Confirm({ title, words, action, onYes, onNo }: Props) {
  return (
    <Dialog open onClose={onNo} aria-labelledby="confirm-title" aria-describedby="confirm-words">
      <DialogTitle id="confirm-title">{title}</DialogTitle>
      <DialogContent>
        <DialogContentText id="confirm-words">{words}</DialogContentText>
      </DialogContent>
      <DialogActions>
        <Button onClick={onNo} autoFocus>
          {t("cancel")}
        </Button>
        <Button color="error" variant="contained" onClick={onYes}>
          {action}
        </Button>
      </DialogActions>
    </Dialog>
  );
}
