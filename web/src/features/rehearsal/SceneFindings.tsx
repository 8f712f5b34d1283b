import type { Schemas } from "../../api/client";
import { t } from "../../words/words";
import { sceneFindingSaid } from "../scenes";

interface Props {
  findings: Schemas["FoundInScene"][];
  /** Whether there are more than are told. */
  more: boolean;
  /** Whether any stage is measured. */
  measured: boolean;
  onChoose: (found: Schemas["FoundInScene"]) => void;
}

/** Everything that is wrong in a scene, in all languages of the product. */
export function SceneFindings({ findings, more, measured, onChoose }: Props) {
  return (
    <section className="troubles" aria-label={t("rehearsal.findings")}>
      <h2>{t("rehearsal.findings")}</h2>
      {findings.length === 0 ? (
        <p className="soft">{t(measured ? "rehearsal.nothing" : "rehearsal.nothingButFit")}</p>
      ) : (
        <ul>
          {once(findings).map(({ one, places }) => (
            <li key={`${one.language} ${one.place} ${one.finding.code} ${JSON.stringify(one.finding.values)}`}>
              <button type="button" onClick={() => onChoose(one)}>
                <span className="soft">{one.language}</span> <code>{one.key}</code>{" "}
                <span className={one.finding.wrong ? "wrong" : "mind"}>{sceneFindingSaid(one.finding)}</span>
                {places > 1 && <span className="soft"> {t("rehearsal.inPlaces", { n: places })}</span>}
              </button>
            </li>
          ))}
        </ul>
      )}
      {more && <p className="soft">{t("rehearsal.moreFindings")}</p>}
    </section>
  );
}

/** The same of the same text stands once, however many places show it. */
function once(findings: Schemas["FoundInScene"][]): { one: Schemas["FoundInScene"]; places: number }[] {
  const lines = new Map<string, { one: Schemas["FoundInScene"]; places: number }>();
  for (const one of findings) {
    const same = JSON.stringify([one.language, one.key, one.finding]);
    const known = lines.get(same);
    if (known) known.places++;
    else lines.set(same, { one, places: 1 });
  }
  return [...lines.values()];
}
