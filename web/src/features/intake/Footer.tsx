import { goesOn } from "../../api/run";
import { Button, LinearProgress } from "@mui/material";
import { Link } from "react-router";
import { count, t } from "../../words/words";
import { sums } from "./sums";
import { MakeProduct } from "./MakeProduct";
import type { Person } from "../../session/useSession";
import type { Intake, Preview } from "./useIntake";

interface Props {
  me: Person;
  intake: Intake;
  preview?: Preview;
  busy: boolean;
  ready: boolean;
  onApply: () => void;
  onCancel: () => void;
  onUndo: () => void;
  onLeave: () => void;
}

/** What all of it adds up to as decided now, and the next step. */
export function Footer({ me, intake, preview, busy, ready, onApply, onCancel, onUndo, onLeave }: Props) {
  if (intake.status === "left") return null;
  const run = intake.run;
  // Comparing and writing are counted together, so a run has two steps per entry.
  const entries = intake.reading?.entries ?? Math.round((run?.total ?? 0) / 2);
  const files = intake.set?.files.filter((file) => !file.leftOut).length;
  const stale = Object.entries(preview?.stale ?? {});
  return (
    <div className="footer">
      <dl aria-live="polite">
        {preview &&
          sums(preview).map((sum) => (
            <div key={sum.name}>
              <dt>{sum.name}</dt>
              <dd>{count(sum.n)}</dd>
            </div>
          ))}
        {preview && (
          <div>
            <dt>{t("sum.unchanged", { n: preview.unchanged })}</dt>
            <dd>{count(preview.unchanged)}</dd>
          </div>
        )}
        {stale.length > 0 && (
          <p className="soft stale">{stale.map(([tag, n]) => t("intake.staleIn", { tag, n })).join(" · ")}</p>
        )}
      </dl>
      {busy && run && goesOn(run) ? (
        <div className="progress">
          <LinearProgress
            variant={run.total ? "determinate" : "indeterminate"}
            value={run.total ? (100 * run.done) / run.total : 0}
            aria-label={t("intake.progress")}
          />
          <span role="status">
            {run.status === "queued"
              ? t("run.queued")
              : intake.status === "applied"
                ? t("intake.undoing")
                : run.done >= run.total
                  ? t("intake.writing")
                  : files !== undefined && run.done <= files
                    ? t("intake.filesRead", { n: run.done, of: files })
                    : t("intake.compared", { n: Math.min(run.done, entries), of: entries })}
          </span>
          {intake.status === "open" && <Button onClick={onCancel}>{t("intake.cancel")}</Button>}
        </div>
      ) : intake.status === "open" ? (
        <>
          <p className="soft">{t("intake.nothingYet")}</p>
          <Button variant="outlined" onClick={onLeave} disabled={busy}>
            {t("intake.leave")}
          </Button>
          <Button variant="contained" onClick={onApply} disabled={!ready || busy}>
            {files === undefined ? t("intake.apply", { n: entries }) : t("intake.applySet", { n: files })}
          </Button>
        </>
      ) : (
        <>
          {intake.status === "applied" && (
            <>
              <p className="soft">{t("intake.done")}</p>
              <Button variant="outlined" onClick={onUndo} disabled={busy}>
                {t("intake.undo")}
              </Button>
            </>
          )}
          <Button
            variant={intake.set ? "outlined" : "contained"}
            component={Link}
            to={`/ledger?table=${intake.tableSlug ?? ""}&intake=${intake.id}`}
          >
            {t("intake.showRows")}
          </Button>
          {intake.set && intake.status === "applied" && (
            <>
              {me.coordinator && <MakeProduct table={intake.tableSlug ?? ""} />}
              <Button variant="contained" component={Link} to={`/board?table=${intake.tableSlug ?? ""}`}>
                {t("intake.seeBoard")}
              </Button>
            </>
          )}
        </>
      )}
    </div>
  );
}
