import { Alert, Button, CircularProgress, MenuItem, TextField } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { Link, useParams, useSearchParams } from "react-router";
import { ask, sentenceOf, type Schemas } from "../../api/client";
import { Frame } from "../../desk/Frame";
import { count, day, moment, nameOfTag, t, when } from "../../words/words";
import { DELIVERIES, useDesk } from "./useDeliveries";
import "../../parts/listed.css";
import "../../parts/pages.css";
import "./deliveries.css";

type Use = Schemas["Use"];

const DAYS = [1, 7, 30, 92] as const;
const USUAL = 30;
const AGAIN_MS = 10_000;
const KILO = 1_000;

/** What running products asked for, who asked, how often nothing was new, and what was refused. */
export function AskedPage() {
  const { slug = "" } = useParams();
  const [query, setQuery] = useSearchParams();
  const days = DAYS.find((one) => String(one) === query.get("days")) ?? USUAL;
  const desk = useDesk(slug);
  const use = useQuery({
    queryKey: [DELIVERIES, slug, "use", days],
    queryFn: ({ signal }) => ask<Use>(`/api/products/${encodeURIComponent(slug)}/bundles/use?days=${days}`, { signal }),
    refetchInterval: AGAIN_MS,
  });
  const product = desk.data?.product;
  return (
    <Frame
      title={product ? t("asked.title", { product: product.name }) : t("bundles.title")}
      aside={
        <Button size="small" variant="outlined" component={Link} to={`/deliveries/${slug}`}>
          {t("asked.back")}
        </Button>
      }
    >
      <div className="settings fetchings">
        <TextField
          select
          size="small"
          label={t("asked.days")}
          value={days}
          onChange={(event) => setQuery({ days: event.target.value }, { replace: true })}
        >
          {DAYS.map((n) => (
            <MenuItem key={n} value={n}>
              {t("asked.lastDays", { n })}
            </MenuItem>
          ))}
        </TextField>
        {use.error && (
          <Alert severity="error" action={<Button onClick={() => void use.refetch()}>{t("retry")}</Button>}>
            {sentenceOf(use.error)}
          </Alert>
        )}
        {use.data?.replica && (
          <p className={use.data.replica.standing === "AWAY" ? "wrong" : "soft"}>
            {t(`asked.replica.${use.data.replica.standing}`, { since: moment(use.data.replica.since) })}
          </p>
        )}
        {use.data ? (
          use.data.rows.length > 0 ? (
            <Told use={use.data} />
          ) : (
            <p className="soft">{t("asked.nothing")}</p>
          )
        ) : (
          !use.error && <CircularProgress size={22} aria-label={t("ledger.loading")} />
        )}
      </div>
    </Frame>
  );
}

function Told({ use }: { use: Use }) {
  const sum = (of: (one: Use["byDay"][number]) => number) => use.byDay.reduce((all, one) => all + of(one), 0);
  const most = Math.max(...use.byDay.map((one) => one.answered + one.unchanged + one.refused));
  return (
    <>
      <p>
        {t("asked.sum", {
          n: sum((one) => one.answered),
          unchanged: sum((one) => one.unchanged),
          size: sizeSaid(sum((one) => one.bytes)),
        })}{" "}
        {sum((one) => one.refused) > 0 && (
          <span className="wrong">{t("asked.refusedSum", { n: sum((one) => one.refused) })}</span>
        )}
      </p>
      <div className="scrolled" tabIndex={0} role="region" aria-label={t("asked.who")}>
        <table className="listed">
          <thead>
            <tr>
              <th scope="col">{t("asked.who")}</th>
              <th scope="col">{t("asked.what")}</th>
              <th scope="col">{t("asked.language")}</th>
              <th scope="col" className="figure">
                {t("asked.answered")}
              </th>
              <th scope="col" className="figure">
                {t("asked.unchanged")}
              </th>
              <th scope="col" className="figure">
                {t("asked.refused")}
              </th>
              <th scope="col" className="figure">
                {t("asked.sent")}
              </th>
              <th scope="col">{t("asked.last")}</th>
            </tr>
          </thead>
          <tbody>
            {use.rows.map((row) => (
              <tr key={`${row.token} ${row.what} ${row.language}`}>
                <th scope="row">
                  {whoOf(row)}
                  {row.ended && <small className="soft"> · {t("asked.ended")}</small>}
                </th>
                <td>{t(`asked.of.${row.what as "list"}`)}</td>
                <td>{row.language === "" ? "" : nameOfTag(row.language)}</td>
                <td className="figure">{count(row.answered)}</td>
                <td className="figure">{count(row.unchanged)}</td>
                <td className={row.refused > 0 ? "figure wrong" : "figure"}>{count(row.refused)}</td>
                <td className="figure">{sizeSaid(row.bytes)}</td>
                <td>{when(row.last)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <h2>{t("asked.byDay")}</h2>
      <table className="listed days">
        <thead>
          <tr>
            <th scope="col">{t("asked.day")}</th>
            <th scope="col">{t("asked.requests")}</th>
            <td />
          </tr>
        </thead>
        <tbody>
          {use.byDay.map((one) => {
            const all = one.answered + one.unchanged + one.refused;
            return (
              <tr key={one.day}>
                <th scope="row">{day(one.day)}</th>
                <td className="figure">{count(all)}</td>
                <td>
                  <i className="fetchstrip" style={{ inlineSize: `${(100 * all) / most}%` }} />
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </>
  );
}

function whoOf(row: Use["rows"][number]): string {
  if (row.token > 0) return row.name ?? t("asked.token", { number: row.token });
  return row.token === 0 ? t("asked.anybody") : t("asked.stranger");
}

function sizeSaid(bytes: number): string {
  if (bytes === 0) return "";
  return bytes < KILO * KILO
    ? t("asked.kilobytes", { size: count(Math.ceil(bytes / KILO)) })
    : t("asked.megabytes", { size: count(Math.ceil(bytes / KILO / KILO)) });
}
