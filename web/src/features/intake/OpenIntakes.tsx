import { Button, CircularProgress } from "@mui/material";
import { useQueries, useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import { Link } from "react-router";
import { ask, sentenceOf, type Schemas } from "../../api/client";
import { goesOn } from "../../api/run";
import { count, t } from "../../words/words";
import { sums } from "./sums";
import { canCompare, type Intake } from "./useIntake";
import "../../parts/listed.css";

const POLL_MS = 600;

interface Props {
  open: Schemas["Listed"][];
  busy: boolean;
  /** Why some could not be started when all were taken. */
  refusals: Record<number, string>;
  onTake: (ids: number[]) => void;
}

interface Found {
  intake: Intake;
  compared?: Schemas["ComparedReply"];
}

/** The files that wait for a decision, each with what it would do; those that are ready can be taken in together. */
export function OpenIntakes({ open, busy, refusals, onTake }: Props) {
  const found = useQueries({
    queries: open.map(({ id }) => ({
      queryKey: ["intake", id, "listed"],
      queryFn: async ({ signal }: { signal: AbortSignal }): Promise<Found> => {
        const intake = await ask<Intake>(`/api/intakes/${id}`, { signal });
        return !canCompare(intake)
          ? { intake }
          : { intake, compared: await ask<Schemas["ComparedReply"]>(`/api/intakes/${id}/preview`, { signal }) };
      },
      staleTime: 0,
      refetchInterval: (query: { state: { data?: Found } }) => (going(query.state.data) ? POLL_MS : (false as const)),
    })),
  });
  const ready = open.filter((_, at) => {
    const one = found[at]?.data;
    return one?.intake.status === "open" && one.compared?.preview !== undefined && !going(one);
  });
  const over = open.filter((_, at) => (found[at]?.data?.intake.status ?? "open") !== "open").length;
  const queries = useQueryClient();
  useEffect(() => {
    // What is done moves to the list of what is done.
    if (over > 0) void queries.invalidateQueries({ queryKey: ["intakes"] });
  }, [over, queries]);
  return (
    <section aria-labelledby="open-intakes">
      <div className="openhead">
        <h2 id="open-intakes">{t("intake.toDecide", { n: filesOf(open) })}</h2>
        {ready.length > 0 && (
          <Button variant="contained" disabled={busy} onClick={() => onTake(ready.map((one) => one.id))}>
            {t("intake.takeAll", { n: filesOf(ready) })}
          </Button>
        )}
      </div>
      <table className="listed">
        <thead>
          <tr>
            <th scope="col">{t("intake.file")}</th>
            <th scope="col">{t("intake.table")}</th>
            <th scope="col">{t("intake.by")}</th>
            <th scope="col">{t("intake.would")}</th>
            <th scope="col">
              <span className="visually-hidden">{t("intake.lookAt")}</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {open.map((one, at) => (
            <tr key={one.id}>
              <th scope="row">
                <Link to={`/intake/${one.id}`}>{nameOf(one)}</Link>
              </th>
              <td>{found[at]?.data?.intake.tableName ?? found[at]?.data?.intake.options.newTable ?? one.tableName}</td>
              <td>{one.person}</td>
              <td>
                <Would
                  found={found[at]?.data}
                  wrong={refusals[one.id] ?? (found[at]?.error ? sentenceOf(found[at].error) : undefined)}
                />
              </td>
              <td>
                <Button component={Link} to={`/intake/${one.id}`} size="small">
                  {t("intake.lookAt")}
                </Button>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

/** How many files intakes have together. */
function filesOf(intakes: Schemas["Listed"][]): number {
  return intakes.reduce((sum, one) => sum + one.files, 0);
}

/** "49 files locales/*.yml", or the one file's name. */
export function nameOf(one: Schemas["Listed"]): string {
  return one.files > 1 ? t("intake.nFiles", { n: one.files, pattern: one.fileName }) : one.fileName;
}

function going(found: Found | undefined): boolean {
  return goesOn(found?.intake.run) || goesOn(found?.compared?.run);
}

function Would({ found, wrong }: { found?: Found; wrong?: string }) {
  if (found?.intake.status === "applied") return t("intake.is.applied");
  if (wrong) return <span className="wrong">{wrong}</span>;
  const run = found?.intake.run;
  if (run && ["failed", "lost", "cancelled"].includes(run.status)) return <span className="wrong">{run.message}</span>;
  const blocked = found?.intake.reading?.blocked ?? found?.intake.set?.blocked;
  if (blocked) return <span className="wrong">{blocked}</span>;
  const failed = found?.compared?.run;
  if (failed?.status === "failed" && !found?.compared?.preview) return <span className="wrong">{failed.message}</span>;
  const preview = found?.compared?.preview;
  if (!preview || going(found)) {
    return (
      <span role="status">
        <CircularProgress size={13} aria-hidden /> {t("intake.comparing")}
      </span>
    );
  }
  const all = sums(preview);
  return all.length === 0 ? t("intake.nothing") : all.map((sum) => `${count(sum.n)} ${sum.name}`).join(" · ");
}
