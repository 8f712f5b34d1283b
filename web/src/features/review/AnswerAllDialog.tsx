import {
  Alert,
  Button,
  Dialog,
  DialogActions,
  DialogContent,
  DialogContentText,
  DialogTitle,
  LinearProgress,
} from "@mui/material";
import { t } from "../../words/words";
import type { useAnsweringAll } from "./useAnsweringAll";
import type { Answer } from "./useReview";

interface Props {
  n: number;
  answer: Answer;
  upTo: number;
  answering: ReturnType<typeof useAnsweringAll>;
  onClose: () => void;
}

/** Asks before thousands are answered, shows how far it is, and tells what came of it. */
export function AnswerAllDialog({ n, answer, upTo, answering, onClose }: Props) {
  const { state, going, failure } = answering;
  const settles = answer.action === "SETTLE";
  const close = () => {
    answering.close();
    onClose();
  };
  const over = state !== null && !going;
  return (
    <Dialog open onClose={going ? undefined : close} maxWidth="sm" fullWidth aria-labelledby="all-title">
      <DialogTitle id="all-title">{t(settles ? "review.all.settle" : "review.all.return", { n })}</DialogTitle>
      <DialogContent>
        {failure && <Alert severity="error">{failure}</Alert>}
        {!state && !going && (
          <DialogContentText>{t(settles ? "review.all.settleWords" : "review.all.returnWords")}</DialogContentText>
        )}
        {going && (
          <div role="status">
            <LinearProgress
              variant={state?.total ? "determinate" : "indeterminate"}
              value={state?.total ? (100 * state.done) / state.total : 0}
              aria-label={t("review.all.progress")}
            />
            <DialogContentText sx={{ mt: 1 }}>
              {t("review.all.far", { n: state?.done ?? 0, of: state?.total || n })}
            </DialogContentText>
          </div>
        )}
        {over && (
          <div role="status">
            {state.status === "done" ? (
              <DialogContentText>
                {t(settles ? "review.all.settled" : "review.all.returned", { n: state.changed })}{" "}
                {state.refused > 0 && t("review.all.stay", { n: state.refused })}
              </DialogContentText>
            ) : (
              <Alert severity="warning">{state.message}</Alert>
            )}
            <ul className="stayed">
              {state.told.map((one) => (
                <li key={one.entry}>
                  <span className="mono">{one.key}</span> {one.sentence}
                </li>
              ))}
            </ul>
          </div>
        )}
      </DialogContent>
      <DialogActions>
        {going ? (
          <Button onClick={answering.cancel}>{t("cancel")}</Button>
        ) : over ? (
          <Button variant="contained" onClick={close}>
            {t("close")}
          </Button>
        ) : (
          <>
            <Button onClick={close}>{t("cancel")}</Button>
            <Button
              variant="contained"
              color={settles ? "primary" : "error"}
              onClick={() => void answering.begin(answer, upTo)}
            >
              {t(settles ? "review.settleAll" : "review.returnAll", { n })}
            </Button>
          </>
        )}
      </DialogActions>
    </Dialog>
  );
}
