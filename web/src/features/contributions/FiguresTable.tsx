import { Link } from "react-router";
import type { Schemas } from "../../api/client";
import { count, nameOfTag, percent, t } from "../../words/words";
import { amendedShare, lasted } from "./said";
import { Trend } from "./Trend";
import type { Contribution, Figures, Period } from "./useContributions";
import "./contributions.css";
import "../../parts/listed.css";

interface Props {
  contributions: Contribution[];
  languages: Schemas["LanguageReply"][];
  period: Period;
  /** Whether the first column names people, who lead to their pages; it names languages otherwise. */
  named: boolean;
}

/** Figures that help to decide whom to trust with what, in order of languages and names, never of numbers. Texts of machines and the memory stand in rows of their own. */
export function FiguresTable({ contributions, languages, period, named }: Props) {
  const nameOf = (tag: string) => nameOfTag(tag, languages);
  return (
    <table className="listed figures">
      <thead>
        <tr>
          <th scope="col">{t(named ? "figures.who" : "figures.language")}</th>
          {COLUMNS.map((column) => (
            <th key={column} scope="col" title={t(`figures.${column}.words`)}>
              {t(`figures.${column}`)}
            </th>
          ))}
          <th scope="col" title={t("figures.inARow.words")}>
            {t("figures.inARow")}
          </th>
          <th scope="col">{t("figures.trend")}</th>
        </tr>
      </thead>
      <tbody>
        {inOrder(contributions, nameOf).map((one) => {
          const language = nameOf(one.language);
          const machine = one.machine;
          return [
            <tr key={`${one.language} ${one.person}`}>
              <th scope="row">
                {named ? (
                  <>
                    <Link to={`/people/${one.person}?from=${period.from}&to=${period.to}`}>{one.name}</Link>{" "}
                    <span className="soft">{language}</span>
                  </>
                ) : (
                  language
                )}
              </th>
              <Cells figures={one.own} />
              <td>{count(one.inARow)}</td>
              <td>
                <Trend weeks={one.weeks} to={period.to} />
              </td>
            </tr>,
            (machine.offered > 0 || machine.settled + machine.amended + machine.returned + machine.waiting > 0) && (
              <tr key={`${one.language} ${one.person} machine`} className="machine">
                <th scope="row">{t("figures.machine")}</th>
                <Cells figures={machine} />
                <td />
                <td />
              </tr>
            ),
          ];
        })}
      </tbody>
    </table>
  );
}

function inOrder(contributions: Contribution[], nameOf: (tag: string) => string): Contribution[] {
  return [...contributions].sort(
    (a, b) => nameOf(a.language).localeCompare(nameOf(b.language)) || a.name.localeCompare(b.name),
  );
}

const COLUMNS = ["offered", "settled", "amended", "returned", "waiting", "words", "median"] as const;

function Cells({ figures }: { figures: Figures }) {
  const share = amendedShare(figures);
  return (
    <>
      <td>{count(figures.offered)}</td>
      <td>
        {count(figures.settled)}
        {figures.byRule > 0 && <small> {t("figures.byRule", { n: figures.byRule })}</small>}
      </td>
      <td>
        {count(figures.amended)}
        {share !== null && <small> {t("figures.changed", { share: percent(share) })}</small>}
      </td>
      <td>{count(figures.returned)}</td>
      <td>{count(figures.waiting)}</td>
      <td>{count(figures.words)}</td>
      <td>{figures.medianSeconds === undefined ? "" : lasted(figures.medianSeconds)}</td>
    </>
  );
}
