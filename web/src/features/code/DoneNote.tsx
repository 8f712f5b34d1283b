import { Alert, Button, Snackbar } from "@mui/material";
import { t } from "../../words/words";
import type { Doing } from "./useDoing";

/** Says what was done, with a way back, and what could not be. */
export function DoneNote({ doing }: { doing: Doing }) {
  return (
    <>
      {doing.wrong && (
        <Alert severity="error" onClose={doing.forget}>
          {doing.wrong}
        </Alert>
      )}
      <Snackbar
        open={doing.said !== null}
        // Rows are chosen at the left.
        anchorOrigin={{ vertical: "bottom", horizontal: "right" }}
        autoHideDuration={10_000}
        onClose={(_, reason) => reason !== "clickaway" && doing.hush()}
        message={doing.said?.words}
        action={
          doing.said?.back && (
            <Button size="small" color="inherit" disabled={doing.busy} onClick={doing.takeBack}>
              {t("code.undo")}
            </Button>
          )
        }
      />
    </>
  );
}
