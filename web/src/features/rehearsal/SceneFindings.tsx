import type { Schemas } from "../../api/client";
import { t } from "../../words/words";
import { weightOf } from "./drawing";
import { sceneFindingSaid } from "./findingWords";

interface Props {
  scene: Schemas["Played"];
  onChoose: (language: string, place: number) => void;
}

/** Everything that is wrong in a scene, language by language. */
export function SceneFindings({ scene, onChoose }: Props) {
  const lines = scene.stages.flatMap((stage) =>
    stage.texts.flatMap((text) => text.findings.map((finding) => ({ stage, text, finding }))),
  );
  return (
    <section className="troubles" aria-label={t("rehearsal.findings")}>
      <h2>{t("rehearsal.findings")}</h2>
      {lines.length === 0 ? (
        <p className="soft">
          {t(scene.stages.every(({ font }) => font) ? "rehearsal.nothing" : "rehearsal.nothingButFit")}
        </p>
      ) : (
        <ul>
          {lines.map(({ stage, text, finding }) => (
            <li key={`${stage.language} ${text.place} ${finding.code} ${JSON.stringify(finding.values)}`}>
              <button type="button" onClick={() => onChoose(stage.language, text.place)}>
                <span className="soft">{stage.language}</span> <code>{text.key}</code>{" "}
                <span className={weightOf([finding])}>{sceneFindingSaid(finding)}</span>
              </button>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
