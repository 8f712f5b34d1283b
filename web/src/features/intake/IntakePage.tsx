import { Alert, CircularProgress } from "@mui/material";
import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { sentenceOf } from "../../api/client";
import { Frame } from "../../desk/Frame";
import { Words } from "../../words/Words";
import { count, t, when, type WordKey } from "../../words/words";
import { useTables } from "../../scope/useTables";
import type { Person } from "../../session/useSession";
import { Footer } from "./Footer";
import { Lines } from "./Lines";
import { ReadingStep } from "./ReadingStep";
import { SetReport, SetStep } from "./SetStep";
import { UndoDialog } from "./UndoDialog";
import { useIntake, type Choice, type Group, type Intake, type Preview } from "./useIntake";
import "./intake.css";

/** One file on its way in: how it was read, what it would do, deciding, taking it in, what it did, taking it back. */
export function IntakePage({ me }: { me: Person }) {
  const id = Number(useParams().id);
  const { intake, compared, decide, decideSet, choose, apply, cancel, undo, leave, going, ready } = useIntake(id);
  const tables = useTables();
  const navigate = useNavigate();
  const queries = useQueryClient();
  const [asking, setAsking] = useState(false);
  const data = intake.data;
  const status = data?.status;
  useEffect(() => {
    if (status === "applied" || status === "undone") {
      void queries.invalidateQueries({ queryKey: ["tables"] });
      void queries.invalidateQueries({ queryKey: ["intakes"] });
    }
  }, [status, queries]);

  const failure = intake.error ?? tables.error;
  const wrong = decide.error ?? decideSet.error ?? choose.error ?? apply.error ?? leave.error ?? undo.error;
  const preview = status === "open" ? compared.data?.preview : data?.report;
  const run = data?.run;
  const stopped =
    run && ["failed", "lost", "cancelled"].includes(run.status) && (status === "open" || status === "applied");
  const comparing = compared.data?.run;
  return (
    <Frame
      title={data && <Title intake={data} />}
      aside={
        data?.assetSet !== undefined ? (
          <Link to={`/intake/assets/${data.assetSet}`}>{t("assets.backToNames")}</Link>
        ) : (
          data?.reading &&
          !data.reading.unread && (
            <span>
              {t("intake.readAs", {
                format: t(`format.${data.reading.format}` as WordKey),
                charset: data.reading.charset,
                n: data.reading.entries,
              })}
            </span>
          )
        )
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
          {stopped && <Alert severity="warning">{run.message}</Alert>}
          {status === "undone" && data.undo && (
            <Alert severity="info">
              {t("intake.undone", { who: data.undoneBy ?? "", when: when(data.undoneAt ?? data.createdAt) })}
              {data.undo.changedSince > 0 && ` ${t("intake.undoneWords", { n: data.undo.changedSince })}`}
              {(data.undo.pencilled?.amount ?? 0) > 0 &&
                ` ${t("intake.undonePencilled", {
                  n: data.undo.pencilled?.amount ?? 0,
                  first: (data.undo.pencilled?.first ?? [])
                    .slice(0, 3)
                    .map((one) => `${one.key} (${one.language ?? ""}): ${one.now}`)
                    .join(" "),
                })}`}
            </Alert>
          )}
          {status === "left" ? (
            <div className="empty">
              <h2>{t("intake.wasLeft")}</h2>
              <p className="soft">{t("intake.wasLeftWords")}</p>
            </div>
          ) : (
            <Deciding
              intake={data}
              preview={preview}
              waiting={
                comparing?.status === "failed" ? (
                  <Alert severity="error">{comparing.message}</Alert>
                ) : compared.error ? (
                  <Alert severity="error">{sentenceOf(compared.error)}</Alert>
                ) : ready && !preview ? (
                  <p className="soft comparing" role="status">
                    <CircularProgress size={14} aria-hidden />{" "}
                    {comparing && comparing.total > 0
                      ? t("intake.comparingAt", { n: comparing.done, of: comparing.total })
                      : t("intake.comparing")}
                  </p>
                ) : null
              }
              busy={going || choose.isPending}
              onChoose={
                status === "open"
                  ? (kind, choice, lines, find) => choose.mutate({ kind, choice, lines, find })
                  : undefined
              }
              reading={
                data.set ? (
                  status === "open" ? (
                    <SetStep
                      intake={data}
                      tables={tables.data}
                      me={me}
                      busy={decideSet.isPending || going}
                      onDecide={(choice) => decideSet.mutate(choice)}
                    />
                  ) : (
                    <SetReport intake={data} />
                  )
                ) : (
                  status === "open" &&
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
                )
              }
            />
          )}
          <Footer
            me={me}
            intake={data}
            preview={preview}
            busy={going || apply.isPending || undo.isPending}
            ready={ready && preview !== undefined}
            onApply={() => apply.mutate()}
            onCancel={() => cancel.mutate()}
            onUndo={() => setAsking(true)}
            onLeave={() => leave.mutate(undefined, { onSuccess: () => void navigate("/intake") })}
          />
          {asking && (
            <UndoDialog
              intake={id}
              onClose={() => setAsking(false)}
              onUndo={(all) => {
                setAsking(false);
                undo.mutate(all);
              }}
            />
          )}
        </>
      )}
    </Frame>
  );
}

function Title({ intake }: { intake: Intake }) {
  const taken = intake.set?.files.filter((file) => !file.leftOut).length ?? 0;
  const into = intake.tableName ?? intake.options.newTable ?? "";
  const sentence =
    intake.status === "applied"
      ? "intake.took"
      : !intake.tableName && intake.status === "open"
        ? "intake.takesNew"
        : "intake.takes";
  return (
    <h1 className="scopeline">
      <Words
        of={sentence}
        slots={{
          file: <b>{intake.set ? t("intake.nFiles", { n: taken, pattern: intake.fileName }) : intake.fileName}</b>,
          table: <b>{into}</b>,
        }}
      />
    </h1>
  );
}

interface DecidingProps {
  intake: Intake;
  preview?: Preview;
  waiting: React.ReactNode;
  reading: React.ReactNode;
  busy: boolean;
  onChoose?: (kind: Group["kind"], choice: Choice, lines: number[] | undefined, find: string) => void;
}

function Deciding({ intake, preview, waiting, reading, busy, onChoose }: DecidingProps) {
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
            name={t(intake.set ? "intake.theFiles" : "intake.howRead")}
            words={t(
              !intake.set
                ? "intake.howReadWords"
                : intake.status === "open"
                  ? "intake.theFilesWords"
                  : "intake.whatCame",
            )}
            open={open === "READING"}
            onOpen={() => setChosen("READING")}
          />
        )}
        {groups.map((group) => (
          <GroupTab
            key={group.kind}
            name={t(`group.${group.kind}`)}
            words={chosenWords(group)}
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
        {waiting}
        {preview && groups.length === 0 && <p className="soft comparing">{t("intake.nothing")}</p>}
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
            <Lines
              key={group.kind}
              intake={intake.id}
              group={group}
              busy={busy}
              onChoose={onChoose && ((choice, lines, find) => onChoose(group.kind, choice, lines, find))}
            />
          ))}
      </div>
    </div>
  );
}

/** "meaning changed 9 · small fix 3" where lines are decided differently; else what the kind is about and what is done with all of it. */
function chosenWords(group: Group): string {
  const words = t(`group.${group.kind}.words`);
  if (group.choices.length < 2) return words;
  const chosen = group.choices.filter((choice) => group.chosen[choice]);
  if (chosen.length === 1 && chosen[0]) return `${words}: ${t(`choice.${chosen[0]}`)}`;
  return chosen.map((choice) => `${t(`choice.${choice}`)} ${count(group.chosen[choice] ?? 0)}`).join(" · ");
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
