import { Button, Dialog, DialogContent, DialogTitle } from "@mui/material";
import { t } from "../words/words";
import { keysSaid } from "../words/keys";
import { KEYS } from "./keyboard";
import "./keys.css";

/** All keys of the sheet. */
export function KeysDialog({ onClose }: { onClose: () => void }) {
  return (
    <Dialog open onClose={onClose} aria-labelledby="keys-title">
      <DialogTitle id="keys-title">{t("keys.title")}</DialogTitle>
      <DialogContent>
        <table className="keys">
          <tbody>
            {KEYS.map(({ shown, meaning }) => (
              <tr key={shown + meaning}>
                <th scope="row">
                  <kbd>{keysSaid(shown)}</kbd>
                </th>
                <td>{t(meaning)}</td>
              </tr>
            ))}
          </tbody>
        </table>
        <Button onClick={onClose}>{t("close")}</Button>
      </DialogContent>
    </Dialog>
  );
}
