import { Button, CircularProgress } from "@mui/material";
import { useQueries } from "@tanstack/react-query";
import { Link } from "react-router";
import { ask, type Schemas } from "../../api/client";
import { count, t } from "../../words/words";
import { sums } from "./sums";
import type { Intake } from "./useIntake";

const POLL_MS = 600;

interface Props {
  open: Schemas["Listed"][];
  busy: boolean;
  onTake: (ids: number[]) => void;
}

interface Found {
  intake: Intake;
  compared?: Schemas["ComparedReply"];
}

/** The files that wait for a decision, each with what it would do; those that are ready can be taken in together. */
export function OpenIntakes({ open, busy, onTake }: Props) {
  const found = useQueries({
    queries: open.map(({ id }) => ({
      queryKey: ["intake", id, "listed"],
      queryFn: async ({ signal }: { signal: AbortSignal }): Promise<Found> => {
        const intake = await ask<Intake>(`/api/intakes/${id}`, { signal });
        const waits = intake.status !== "open" || !intake.reading || intake.reading.blocked;
        return waits
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
  return (
    <section aria-labelledby="open-intakes">
      <div className="openhead">
        <h2 id="open-intakes">{t("intake.toDecide", { n: open.length })}</h2>
        {ready.length > 0 && (
          <Button variant="contained" disabled={busy} onClick={() => onTake(ready.map((one) => one.id))}>
            {t("intake.takeAll", { n: ready.length })}
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
                <Link to={`/intake/${one.id}`}>{one.fileName}</Link>
              </th>
              <td>{found[at]?.data?.intake.tableName ?? found[at]?.data?.intake.options.newTable ?? one.tableName}</td>
              <td>{one.person}</td>
              <td>
                <Would found={found[at]?.data} error={found[at]?.error ?? null} />
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

function going(found: Found | undefined): boolean {
  return found?.intake.run?.status === "going" || found?.compared?.run?.status === "going";
}

function Would({ found, error }: { found?: Found; error: Error | null }) {
  if (error) return <span className="wrong">{error.message}</span>;
  if (found?.intake.status === "applied") return t("intake.is.applied");
  if (found?.intake.reading?.blocked) return <span className="wrong">{found.intake.reading.blocked}</span>;
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
