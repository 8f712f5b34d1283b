import type { Schemas } from "../../api/client";
import { t } from "../../words/words";
import { nameOfStage, StageShown, useManyPlayed } from "../scenes";

interface Props {
  product: Schemas["ProductReply"];
  scene: number;
  counts: Schemas["SceneCounts"][];
  /** Whether the scene itself is there, which comes first. */
  after: boolean;
  onLanguage: (tag: string) => void;
}

/** As many small pictures as stand beside the findings; the contact sheet has them all. */
const SHOWN = 8;

/** A scene in all languages of the product, small. */
export function Glance({ product, scene, counts, after, onLanguage }: Props) {
  const tags = product.languages.slice(0, SHOWN).map(({ language }) => language.tag);
  const { all } = useManyPlayed(product.slug, [scene], tags, after);
  return (
    <section className="glance" aria-label={t("rehearsal.glance")}>
      <h2>{t("rehearsal.glance")}</h2>
      <div>
        {all.map(({ scene: played, stage }) => {
          const wrong = counts.find((one) => one.scene === scene && one.language === stage.language)?.wrong ?? 0;
          return (
            <button
              key={stage.language}
              type="button"
              className={wrong > 0 ? "wrong" : undefined}
              aria-label={`${nameOfStage(stage)}: ${t(wrong > 0 ? "rehearsal.wrong" : "rehearsal.fine", { n: wrong })}`}
              onClick={() => onLanguage(stage.language)}
            >
              <StageShown product={product.slug} scene={played} stage={stage} caption={<span>{stage.language}</span>} />
            </button>
          );
        })}
      </div>
    </section>
  );
}
