import {
  Button,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  FormControlLabel,
  FormLabel,
  Radio,
  RadioGroup,
} from "@mui/material";
import { useState } from "react";
import { languageName, t } from "../../words/words";
import type { Plan } from "../../sheet/pasting";
import { DiffShown } from "../../text/TextShown";
import { wordDiff } from "../../text/wordDiff";
import "./paste.css";

/** More would not be read before it is pasted. */
const SHOWN = 200;

interface Props {
  plan: Plan;
  filling: boolean;
  onPaste: (action: "PENCIL" | "PUT_FORWARD") => void;
  onClose: () => void;
}

/** What pasting a block would do, before it is done. */
export function PasteDialog({ plan, filling, onPaste, onClose }: Props) {
  const [action, setAction] = useState<"PENCIL" | "PUT_FORWARD">("PENCIL");
  const n = plan.changes.length;
  const settled = plan.changes.filter((change) => change.settled).length;
  const remarks = [
    action === "PENCIL" && settled > 0 && t("paste.settled", { n: settled }),
    plan.same > 0 && t("paste.same", { n: plan.same }),
    plan.empty > 0 && t("paste.empty", { n: plan.empty }),
    plan.beyond > 0 && t("paste.beyond", { n: plan.beyond }),
    plan.notHere > 0 && t("paste.notHere", { n: plan.notHere }),
    plan.wrongForms > 0 && t("paste.forms", { n: plan.wrongForms }),
  ].filter((remark) => remark !== false);
  return (
    <Dialog open onClose={onClose} maxWidth="md" fullWidth aria-labelledby="paste-title">
      <DialogTitle id="paste-title">{t(filling ? "paste.fillTitle" : "paste.title", { n })}</DialogTitle>
      <DialogContent className="paste">
        {n === 0 && <p>{t("paste.nothing")}</p>}
        {remarks.map((remark) => (
          <p key={remark}>{remark}</p>
        ))}
        {n > 0 && (
          <>
            <FormLabel id="paste-as">{t("paste.as")}</FormLabel>
            <RadioGroup
              aria-labelledby="paste-as"
              value={action}
              onChange={(_, value) => setAction(value as "PENCIL" | "PUT_FORWARD")}
            >
              <FormControlLabel value="PENCIL" control={<Radio size="small" />} label={t("paste.pencilled")} />
              <FormControlLabel value="PUT_FORWARD" control={<Radio size="small" />} label={t("paste.forward")} />
            </RadioGroup>
            <table>
              <tbody>
                {plan.changes.slice(0, SHOWN).map((change) => (
                  <tr key={`${change.entry} ${change.language.tag}`}>
                    <th scope="row">
                      <span className="key">{change.key}</span> <small>{languageName(change.language)}</small>
                    </th>
                    <td lang={change.language.tag} dir={change.language.rightToLeft ? "rtl" : "ltr"}>
                      <DiffShown runs={wordDiff(change.before, change.after)} />
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
            {n > SHOWN && <p className="soft">{t("paste.more", { n: n - SHOWN })}</p>}
          </>
        )}
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>{t(n > 0 ? "cancel" : "close")}</Button>
        {n > 0 && (
          <Button variant="contained" autoFocus onClick={() => onPaste(action)}>
            {t("paste.do", { n })}
          </Button>
        )}
      </DialogActions>
    </Dialog>
  );
}
