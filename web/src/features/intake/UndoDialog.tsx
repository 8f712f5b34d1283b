import {
  Alert,
  Button,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  FormControlLabel,
  LinearProgress,
  Radio,
  RadioGroup,
} from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { ask, sentenceOf, type Schemas } from "../../api/client";
import { t } from "../../words/words";

interface Props {
  intake: number;
  onClose: () => void;
  onUndo: (all: boolean) => void;
}

/** Says what taking an intake back does, and asks about what was changed since. */
export function UndoDialog({ intake, onClose, onUndo }: Props) {
  const [all, setAll] = useState(false);
  const look = useQuery({
    queryKey: ["intake", intake, "undo"],
    queryFn: ({ signal }) => ask<Schemas["UndoReply"]>(`/api/intakes/${intake}/undo`, { signal }),
    staleTime: 0,
    gcTime: 0,
  });
  const found = look.data;
  return (
    <Dialog open onClose={onClose} aria-labelledby="undo-title" fullWidth maxWidth="sm">
      <DialogTitle id="undo-title">{t("undo.title")}</DialogTitle>
      <DialogContent>
        {look.error && <Alert severity="error">{sentenceOf(look.error)}</Alert>}
        {look.isPending && <LinearProgress aria-label={t("undo.looking")} />}
        {found && (
          <>
            <ul className="undoes">
              {found.texts > 0 && <li>{t("undo.texts", { n: found.texts })}</li>}
              {found.entries > 0 && <li>{t("undo.entries", { n: found.entries })}</li>}
              {found.removed > 0 && <li>{t("undo.removed", { n: found.removed })}</li>}
              {found.texts + found.entries + found.removed === 0 && <li>{t("undo.allSince")}</li>}
            </ul>
            {found.changedSince > 0 && (
              <>
                <p>{t("undo.since", { n: found.changedSince })}</p>
                <ul className="since">
                  {found.changed.slice(0, 8).map((one, at) => (
                    <li key={at}>
                      <span className="key">{one.key}</span> {one.language} <bdi>{one.now}</bdi>
                    </li>
                  ))}
                  {found.changedSince > 8 && <li>{t("intake.moreProblems", { n: found.changedSince - 8 })}</li>}
                </ul>
                <RadioGroup value={all ? "all" : "rest"} onChange={(event) => setAll(event.target.value === "all")}>
                  <FormControlLabel value="rest" control={<Radio size="small" />} label={t("undo.leave")} />
                  <FormControlLabel value="all" control={<Radio size="small" />} label={t("undo.all")} />
                </RadioGroup>
              </>
            )}
            <p className="soft">{t("undo.story")}</p>
          </>
        )}
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>{t("close")}</Button>
        <Button variant="contained" color="error" disabled={!found} onClick={() => onUndo(all)}>
          {t("undo.do")}
        </Button>
      </DialogActions>
    </Dialog>
  );
}
