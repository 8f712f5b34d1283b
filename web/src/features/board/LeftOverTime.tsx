import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { ask, sentenceOf, type Schemas } from "../../api/client";
import { count, day, nameOfTag, t } from "../../words/words";
import { writeScope, type Scope } from "../../scope/scope";
import type { Unit } from "./unit";
import { chartOf, HEIGHT, WIDTH } from "./chart";

interface Props {
  tables: Schemas["TableReply"][];
  scope: Scope;
  languages: Schemas["LanguageReply"][];
  unit: Unit;
}

/** What was left to settle per language, day by day, and when it ends at this pace. The table below the drawing says the same in words. */
export function LeftOverTime({ tables, scope, languages, unit }: Props) {
  const [chosen, setChosen] = useState<string | null>(null);
  const query = writeScope({ ...scope, product: "", tables: tables.map((table) => table.slug) });
  const left = useQuery({
    queryKey: ["board", "left", query, unit],
    queryFn: ({ signal }) =>
      ask<Schemas["LeftReply"][]>(`/api/board/left?${query}${unit === "words" ? "&words=true" : ""}`, { signal }),
  });
  const nameOf = (tag: string) => nameOfTag(tag, languages);
  const chart = left.data ? chartOf(left.data) : null;
  return (
    <section aria-labelledby="overtime" className="overtime" tabIndex={0}>
      <h2 id="overtime">{t("board.left")}</h2>
      {left.isError && <p className="wrong">{sentenceOf(left.error)}</p>}
      {chart && (
        <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} role="img" aria-label={t("board.chart")}>
          {chart.grid.map((line) => (
            <g key={line.value}>
              <line className="grid" x1={chart.from} x2={chart.to} y1={line.y} y2={line.y} />
              <text className="axis" x={chart.from - 6} y={line.y + 4} textAnchor="end">
                {count(line.value)}
              </text>
            </g>
          ))}
          {chart.months.map((month) => (
            <text key={month.label} className="axis" x={month.x} y={HEIGHT - 4}>
              {month.label}
            </text>
          ))}
          <line className="today" x1={chart.today} x2={chart.today} y1={8} y2={chart.bottom} />
          <text className="axis" x={chart.today + 4} y={14}>
            {t("board.today")}
          </text>
          {chart.series.map((one, at) => (
            <g key={one.language} className={`series s${at % 7}${chosen && chosen !== one.language ? " faded" : ""}`}>
              <path d={one.path} />
              {one.ahead && <path className="ahead" d={one.ahead} />}
            </g>
          ))}
        </svg>
      )}
      <ul className="forecasts">
        {left.data?.map((one, at) => (
          <li key={one.language} onMouseEnter={() => setChosen(one.language)} onMouseLeave={() => setChosen(null)}>
            <span className={`swatch s${at % 7}`} aria-hidden="true" />
            <b>{nameOf(one.language)}</b> {forecastSaid(one)}
          </li>
        ))}
      </ul>
    </section>
  );
}

function forecastSaid(one: Schemas["LeftReply"]): string {
  const left = one.points.at(-1)?.left ?? 0;
  const forecast = one.forecast;
  if (left === 0) return t("board.nothingLeft");
  if (!forecast) return t("board.noForecast", { n: left });
  return forecast.latest
    ? t("board.forecast", { n: left, from: day(forecast.earliest), to: day(forecast.latest) })
    : t("board.forecastOpen", { n: left, from: day(forecast.earliest) });
}
