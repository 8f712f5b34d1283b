import { Alert, Button, CircularProgress } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { useParams, useSearchParams } from "react-router";
import { ask, sentenceOf, type Schemas } from "../../api/client";
import { Frame } from "../../desk/Frame";
import { count, day, nameOfTag, t } from "../../words/words";
import { left, languagesOf } from "../../scope/scopeTables";
import { useTables } from "../../scope/useTables";
import { FiguresTable } from "./FiguresTable";
import { PeriodFields } from "./PeriodFields";
import { readPeriod } from "./useContributions";
import "../../parts/pages.css";
import "./contributions.css";
import "../../parts/listed.css";

type Report = Schemas["Report"];

/** What was put in force in a language during a period, by whom: to be printed or taken along as a sheet. */
export function ReportPage() {
  const { language: tag = "" } = useParams();
  const [query, setQuery] = useSearchParams();
  const period = readPeriod(query);
  const tables = useTables();
  const languages = languagesOf(tables.data ?? []);
  const kept = languages.find((one) => one.language.tag === tag);
  const asked = `from=${period.from}&to=${period.to}`;
  const path = `/api/reports/${encodeURIComponent(tag)}`;
  const report = useQuery({
    queryKey: ["contributions", "report", tag, asked],
    queryFn: ({ signal }) => ask<Report>(`${path}?${asked}`, { signal }),
  });
  const name = nameOfTag(tag, languages);
  return (
    <Frame title={t("report.title", { language: name })}>
      <div className="settings report">
        <div className="looking">
          <PeriodFields period={period} onPeriod={(next) => setQuery({ ...next }, { replace: true })} />
          <Button onClick={() => window.print()}>{t("report.print")}</Button>
          <Button href={`${path}/csv?${asked}`} download>
            {t("contributions.csv")}
          </Button>
        </div>
        {report.isError ? (
          <Alert severity="error">{sentenceOf(report.error)}</Alert>
        ) : !report.data ? (
          <CircularProgress size={22} aria-label={t("ledger.loading")} />
        ) : (
          <>
            <h2 className="paper">
              {t("report.heading", { language: name, from: day(report.data.from), to: day(report.data.to) })}
            </h2>
            <p>{summary(report.data)}</p>
            {kept && <p>{t("report.left", { n: left(kept, "entries"), words: left(kept, "words") })}</p>}
            <Answerers report={report.data} />
            <InTables report={report.data} />
            {report.data.contributors.length > 0 && (
              <section>
                <h2>{t("report.contributors")}</h2>
                <FiguresTable contributions={report.data.contributors} languages={languages} period={period} named />
              </section>
            )}
          </>
        )}
      </div>
    </Frame>
  );
}

function summary({ answerers, tables }: Report): string {
  const sum = (of: (one: Report["answerers"][number]) => number) => answerers.reduce((all, one) => all + of(one), 0);
  return t("report.summary", {
    n: tables.reduce((all, one) => all + one.entries, 0),
    words: sum((one) => one.words),
    returned: sum((one) => one.returned),
    stale: sum((one) => one.staleAnswered),
  });
}

function Answerers({ report }: { report: Report }) {
  if (report.answerers.length === 0) return null;
  return (
    <section>
      <h2>{t("report.byWhom")}</h2>
      <table className="listed figures">
        <thead>
          <tr>
            <th scope="col">{t("figures.who")}</th>
            {ANSWER_COLUMNS.map((column) => (
              <th key={column} scope="col">
                {t(`report.${column}`)}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {report.answerers.map((one) => (
            <tr key={`${one.name} ${one.fromFiles}`}>
              <th scope="row">
                {one.name} {one.fromFiles && <span className="soft">{t("report.fromFiles")}</span>}
              </th>
              {ANSWER_COLUMNS.map((column) => (
                <td key={column}>{count(one[column])}</td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

const ANSWER_COLUMNS = [
  "settled",
  "byRule",
  "amended",
  "returned",
  "stillHolds",
  "putBack",
  "staleAnswered",
  "words",
] as const;

function InTables({ report }: { report: Report }) {
  if (report.tables.length === 0) return <p className="soft">{t("report.nothing")}</p>;
  return (
    <section>
      <h2>{t("report.inTables")}</h2>
      <table className="listed figures">
        <thead>
          <tr>
            <th scope="col">{t("report.table")}</th>
            {TABLE_COLUMNS.map((column) => (
              <th key={column} scope="col">
                {t(`report.${column}`)}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {report.tables.map((one) => (
            <tr key={one.slug}>
              <th scope="row">{one.name}</th>
              {TABLE_COLUMNS.map((column) => (
                <td key={column}>{count(one[column])}</td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

const TABLE_COLUMNS = ["entries", "times", "staleAnswered", "words"] as const;
