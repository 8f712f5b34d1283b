import { Alert, Button, CircularProgress, LinearProgress } from "@mui/material";
import { useEffect, useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { useQueryClient } from "@tanstack/react-query";
import { sentenceOf } from "../../api/client";
import { Frame } from "../../app/Frame";
import { count, t } from "../../words/words";
import { useTables } from "../ledger/useLedger";
import type { Person } from "../session/useSession";
import { Groups } from "./Groups";
import { ReadingStep } from "./ReadingStep";
import { useIntake, type Intake, type Preview } from "./useIntake";
import "./intake.css";

/** One file on its way in: how it was read, what it would do, taking it in, what it did. */
export function IntakePage({ me }: { me: Person }) {
  const id = Number(useParams().id);
  const { intake, preview, decide, apply, cancel, leave, going, ready } = useIntake(id);
  const tables = useTables();
  const navigate = useNavigate();
  const queries = useQueryClient();
  const data = intake.data;
  const applied = data?.status === "applied";
  useEffect(() => {
    if (applied) void queries.invalidateQueries({ queryKey: ["tables"] });
  }, [applied, queries]);

  const failure = intake.error ?? tables.error;
  const wrong = decide.error ?? apply.error ?? leave.error;
  return (
    <Frame
      me={me}
      title={data && <Title intake={data} />}
      aside={
        data?.reading && <span>{t("intake.readAs", { charset: data.reading.charset, n: data.reading.entries })}</span>
      }
    >
      {failure && (
        <div className="empty">
          <Alert severity="error">{sentenceOf(failure)}</Alert>
        </div>
      )}
      {!data && !failure && (
        <div className="empty" role="status">
          <CircularProgress size={22} aria-label={t("ledger.loading")} />
        </div>
      )}
      {data && tables.data && (
        <>
          {wrong && <Alert severity="error">{sentenceOf(wrong)}</Alert>}
          {data.run &&
            (data.run.status === "failed" || data.run.status === "lost" || data.run.status === "cancelled") &&
            data.status === "open" && <Alert severity="warning">{data.run.message}</Alert>}
          {data.status === "open" && (
            <Deciding
              intake={data}
              preview={preview.data}
              previewWrong={preview.error}
              reading={
                data.reading && (
                  <ReadingStep
                    key={JSON.stringify(data.options)}
                    intake={data}
                    tables={tables.data}
                    me={me}
                    busy={decide.isPending || going}
                    onDecide={(options) => decide.mutate(options)}
                  />
                )
              }
            />
          )}
          {data.status === "applied" && data.report && <Deciding intake={data} preview={data.report} />}
          {data.status === "left" && (
            <div className="empty">
              <h2>{t("intake.wasLeft")}</h2>
              <p className="soft">{t("intake.wasLeftWords")}</p>
            </div>
          )}
          <Footer
            intake={data}
            preview={data.report ?? preview.data}
            busy={going || apply.isPending}
            ready={ready && preview.isSuccess}
            onApply={() => apply.mutate()}
            onCancel={() => cancel.mutate()}
            onLeave={() => leave.mutate(undefined, { onSuccess: () => void navigate("/intake") })}
          />
        </>
      )}
    </Frame>
  );
}

function Title({ intake }: { intake: Intake }) {
  const into = intake.tableName ?? intake.options.newTable ?? "";
  return (
    <h1 className="scopeline">
      {t(intake.status === "applied" ? "intake.taken" : "intake.taking")} <b>{intake.fileName}</b> {t("intake.into")}{" "}
      <b>{into}</b>
      {!intake.tableName && intake.status === "open" && ` (${t("intake.aNewTable")})`}
    </h1>
  );
}

interface DecidingProps {
  intake: Intake;
  preview?: Preview;
  previewWrong?: Error | null;
  reading?: React.ReactNode;
}

function Deciding({ intake, preview, previewWrong, reading }: DecidingProps) {
  const [chosen, setChosen] = useState<string | null>(null);
  const groups = preview?.groups ?? [];
  const problems = preview?.problems ?? intake.reading?.problems ?? [];
  const problemCount = preview?.problemCount ?? intake.reading?.problemCount ?? 0;
  const open = chosen ?? (reading ? "READING" : (groups[0]?.kind ?? "PROBLEMS"));
  return (
    <div className="deciding">
      <div className="groups" role="tablist" aria-label={t("intake.groups")} aria-orientation="vertical">
        {reading && (
          <GroupTab
            name={t("intake.howRead")}
            words={t("intake.howReadWords")}
            open={open === "READING"}
            onOpen={() => setChosen("READING")}
          />
        )}
        {groups.map((group) => (
          <GroupTab
            key={group.kind}
            name={t(`group.${group.kind}`)}
            words={t(`group.${group.kind}.words`)}
            n={group.count}
            open={open === group.kind}
            onOpen={() => setChosen(group.kind)}
          />
        ))}
        {problemCount > 0 && (
          <GroupTab
            name={t("group.PROBLEMS")}
            words={t("group.PROBLEMS.words")}
            n={problemCount}
            open={open === "PROBLEMS"}
            onOpen={() => setChosen("PROBLEMS")}
          />
        )}
        {reading && !preview && !previewWrong && !intake.reading?.blocked && (
          <p className="soft waiting" role="status">
            <CircularProgress size={14} aria-hidden /> {t("intake.comparing")}
          </p>
        )}
        {previewWrong && <Alert severity="error">{sentenceOf(previewWrong)}</Alert>}
        {preview && groups.length === 0 && <p className="soft waiting">{t("intake.nothing")}</p>}
      </div>
      <div className="detail" role="tabpanel" tabIndex={0} aria-label={t("intake.detail")}>
        {open === "READING" && reading}
        {open === "PROBLEMS" && (
          <ul className="problems">
            {problems.map((problem, at) => (
              <li key={at}>{problem}</li>
            ))}
            {problemCount > problems.length && (
              <li>{t("intake.moreProblems", { n: problemCount - problems.length })}</li>
            )}
          </ul>
        )}
        {groups
          .filter((group) => group.kind === open)
          .map((group) => (
            <Groups key={group.kind} group={group} />
          ))}
      </div>
    </div>
  );
}

function GroupTab({
  name,
  words,
  n,
  open,
  onOpen,
}: {
  name: string;
  words: string;
  n?: number;
  open: boolean;
  onOpen: () => void;
}) {
  return (
    <button type="button" role="tab" aria-selected={open} className={open ? "group open" : "group"} onClick={onOpen}>
      <span className="name">
        {name}
        {n !== undefined && <span className="n">{count(n)}</span>}
      </span>
      <span className="soft">{words}</span>
    </button>
  );
}

interface FooterProps {
  intake: Intake;
  preview?: Preview;
  busy: boolean;
  ready: boolean;
  onApply: () => void;
  onCancel: () => void;
  onLeave: () => void;
}

const SUMMED = [
  "NEW_ENTRIES",
  "TEXTS_ADDED",
  "SOURCES_REWRITTEN",
  "GO_STALE",
  "DIFFER_FROM_SETTLED",
  "CONFLICTS",
] as const;

function Footer({ intake, preview, busy, ready, onApply, onCancel, onLeave }: FooterProps) {
  if (intake.status === "left") return null;
  const run = intake.run;
  // Comparing and writing are counted together, so a run has two steps per entry.
  const entries = intake.reading?.entries ?? Math.round((run?.total ?? 0) / 2);
  return (
    <div className="footer">
      <dl>
        {SUMMED.map((kind) => {
          const n = preview?.groups.find((group) => group.kind === kind)?.count ?? 0;
          return n > 0 ? (
            <div key={kind}>
              <dt>{t(`sum.${kind}`, { n })}</dt>
              <dd>{count(n)}</dd>
            </div>
          ) : null;
        })}
        {preview && (
          <div>
            <dt>{t("sum.unchanged", { n: preview.unchanged })}</dt>
            <dd>{count(preview.unchanged)}</dd>
          </div>
        )}
      </dl>
      {busy && run ? (
        <div className="progress">
          <LinearProgress
            variant={run.total ? "determinate" : "indeterminate"}
            value={run.total ? (100 * run.done) / run.total : 0}
            aria-label={t("intake.progress")}
          />
          <span role="status">
            {run.done >= run.total
              ? t("intake.writing")
              : t("intake.compared", { n: Math.min(run.done, entries), of: entries })}
          </span>
          <Button onClick={onCancel}>{t("intake.cancel")}</Button>
        </div>
      ) : intake.status === "applied" ? (
        <>
          <p className="soft">{t("intake.done")}</p>
          <Button
            variant="contained"
            component={Link}
            to={`/ledger?table=${intake.tableSlug ?? ""}&intake=${intake.id}`}
          >
            {t("intake.showRows")}
          </Button>
        </>
      ) : (
        <>
          <p className="soft">{t("intake.nothingYet")}</p>
          <Button variant="outlined" onClick={onLeave} disabled={busy}>
            {t("intake.leave")}
          </Button>
          <Button variant="contained" onClick={onApply} disabled={!ready || busy}>
            {t("intake.apply", { n: entries })}
          </Button>
        </>
      )}
    </div>
  );
}
