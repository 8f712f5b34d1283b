import { Alert, Button, Dialog, DialogActions, DialogContent, DialogTitle, LinearProgress } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { ask, sentenceOf, type Schemas } from "../../api/client";
import { t } from "../../words/words";
import "./filling.css";

const GOING_MS = 400;

/** A fill that is being drafted, and what could not be filled. */
export function DraftRun({
  change,
  onDone,
  onFailed,
}: {
  change: number;
  onDone: (done: Schemas["FillReply"]) => void;
  onFailed: (sentence: string) => void;
}) {
  const [stopping, setStopping] = useState(false);
  const fill = useQuery({
    queryKey: ["filling", change],
    queryFn: ({ signal }) => ask<Schemas["FillReply"]>(`/api/fill/${change}`, { signal }),
    refetchInterval: (query) => (isOpen(query.state.data) ? GOING_MS : false),
    gcTime: 0,
  });
  const done = fill.data;
  const over = done !== undefined && !isOpen(done);
  const well = over && done.status === "done";
  const told = useRef(false);
  useEffect(() => {
    if (!over || told.current || (well && done.refused > 0)) return;
    told.current = true;
    if (well) onDone(done);
    else onFailed(done.message || t("fill.failed"));
  });
  return (
    <Dialog open maxWidth="md" fullWidth aria-labelledby="drafting-title">
      <DialogTitle id="drafting-title">
        {well ? t("fill.over", { n: done.known + done.drafted }) : t("fill.drafting")}
      </DialogTitle>
      <DialogContent className="filling">
        {fill.error && <Alert severity="error">{sentenceOf(fill.error)}</Alert>}
        {!over && (
          <>
            <LinearProgress
              aria-label={t("fill.drafting")}
              variant={done && done.total > 0 ? "determinate" : "indeterminate"}
              value={done && done.total > 0 ? (100 * done.done) / done.total : 0}
            />
            <p className="soft" role="status">
              {done && done.total > 0 ? t("fill.progress", { done: done.done, total: done.total }) : ""}
            </p>
          </>
        )}
        {well && (
          <>
            <p>{t("fill.refused", { n: done.refused })}</p>
            <ul className="refusals">
              {done.told.map((one) => (
                <li key={one.entry}>
                  <code>{one.key}</code> {one.sentence}
                </li>
              ))}
            </ul>
          </>
        )}
      </DialogContent>
      <DialogActions>
        {well ? (
          <Button variant="contained" onClick={() => onDone(done)}>
            {t("close")}
          </Button>
        ) : (
          <Button
            disabled={stopping}
            onClick={() => {
              setStopping(true);
              ask(`/api/fill/${change}/stop`, { method: "POST" }).catch(() => setStopping(false));
            }}
          >
            {t("fill.stop")}
          </Button>
        )}
      </DialogActions>
    </Dialog>
  );
}

function isOpen(fill: Schemas["FillReply"] | undefined): boolean {
  return fill === undefined || fill.status === "going" || fill.status === "queued";
}
