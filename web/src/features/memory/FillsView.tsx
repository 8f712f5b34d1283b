import { Alert, Button, CircularProgress, Snackbar } from "@mui/material";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { ask, sentenceOf, type Schemas } from "../../api/client";
import { nameOfTag, t, when } from "../../words/words";

type Fill = Schemas["FillReply"];

const LOOKS_EVERY_MS = 1_000;

/** The newest fills: what came from where, what became of it, and one press that takes back what nobody touched since. */
export function FillsView() {
  const queries = useQueryClient();
  const [said, setSaid] = useState("");
  const fills = useQuery({
    queryKey: ["filling"],
    queryFn: ({ signal }) => ask<Fill[]>("/api/fill", { signal }),
    refetchInterval: (query) => (query.state.data?.some(isOpen) ? LOOKS_EVERY_MS : false),
    staleTime: 0,
  });
  const undo = (change: number) =>
    void ask<Schemas["Undone"]>(`/api/changes/${change}/undo`, { method: "POST" })
      .then((done) => {
        setSaid(t("fills.undone", { n: done.amount, stayed: done.refused.length }));
        return queries.invalidateQueries();
      })
      .catch((failure: unknown) => setSaid(sentenceOf(failure)));
  if (fills.error) {
    return (
      <Alert severity="error" action={<Button onClick={() => void fills.refetch()}>{t("retry")}</Button>}>
        {sentenceOf(fills.error)}
      </Alert>
    );
  }
  if (!fills.data) return <CircularProgress size={22} aria-label={t("ledger.loading")} />;
  if (fills.data.length === 0) return <p className="soft">{t("fills.none")}</p>;
  return (
    <div className="units" role="region" aria-label={t("memory.view.fills")} tabIndex={0}>
      <table>
        <thead>
          <tr>
            <th scope="col">{t("fills.when")}</th>
            <th scope="col">{t("fills.what")}</th>
            <th scope="col">{t("fills.came")}</th>
            <th scope="col">
              <span className="visually-hidden">{t("fills.do")}</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {fills.data.map((fill) => (
            <tr key={fill.change}>
              <td>
                {when(fill.begunAt)}
                <small className="soft">{fill.person}</small>
              </td>
              <td>
                <Link to={`/ledger?${fill.scope}`}>{nameOfTag(fill.language)}</Link>
                {fill.service && <small className="soft">{t("fill.draftsOf", { service: fill.service })}</small>}
              </td>
              <td>
                {isOpen(fill)
                  ? t("fill.progress", { done: fill.done, total: fill.total })
                  : fill.status === "done"
                    ? t("fills.counted", { known: fill.known, drafted: fill.drafted, refused: fill.refused })
                    : fill.message}
                {fill.told.length > 0 && (
                  <details>
                    <summary>{t("fill.refused", { n: fill.refused })}</summary>
                    <ul>
                      {fill.told.map((one) => (
                        <li key={one.entry}>
                          <code>{one.key}</code> {one.sentence}
                        </li>
                      ))}
                    </ul>
                  </details>
                )}
              </td>
              <td>
                {fill.mine && fill.status === "done" && fill.known + fill.drafted > 0 && (
                  <Button size="small" onClick={() => undo(fill.change)}>
                    {t("fills.undo")}
                  </Button>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <Snackbar open={said !== ""} autoHideDuration={6000} onClose={() => setSaid("")} message={said} />
    </div>
  );
}

function isOpen({ status }: Fill): boolean {
  return status === "going" || status === "queued";
}
