import type { Schemas } from "../../api/client";
import { Choice, Choices, Picker } from "../../parts/Picker";
import { listed, nameOfTag, t } from "../../words/words";
import { MOST, PRETEND } from "./playing";

interface Props {
  product: Schemas["ProductReply"];
  products: Schemas["ProductReply"][];
  /** The name of the scene that is open. */
  scene: string | undefined;
  /** Tags of the languages side by side. */
  now: string[];
  onProduct: (slug: string) => void;
  onLanguages: (tags: string[]) => void;
}

/** What is rehearsed, as a sentence: the product, its scene, and one to four languages. */
export function RehearsalLine({ product, products, scene, now, onProduct, onLanguages }: Props) {
  const languages = [
    ...product.languages.map(({ language }) => ({ tag: language.tag, name: language.englishName })),
    ...PRETEND.map((tag) => ({
      tag,
      name: t(tag === "ar-XB" ? "rehearsal.pretend.turned" : "rehearsal.pretend.longer"),
    })),
  ];
  return (
    <h1 className="scopeline">
      {t("rehearsal.of")}{" "}
      <Picker label={t("products.product")} words={product.name}>
        {(close) => (
          <Choices label={t("products.product")}>
            {products.map((one) => (
              <Choice
                key={one.slug}
                words={one.name}
                chosen={one.slug === product.slug}
                onChoose={() => {
                  close();
                  onProduct(one.slug);
                }}
              />
            ))}
          </Choices>
        )}
      </Picker>
      {scene && <span className="whichscene">{t("rehearsal.sceneOf", { scene })}</span>}
      {t("rehearsal.in")}{" "}
      <Picker
        label={t("rehearsal.languages")}
        words={listed(now.map((tag) => languages.find((one) => one.tag === tag)?.name ?? nameOfTag(tag))) || "…"}
      >
        {(close) => (
          <Choices label={t("rehearsal.languages")}>
            {languages.map(({ tag, name }) => (
              <Choice
                key={tag}
                words={name}
                more={tag}
                chosen={now.includes(tag)}
                onChoose={() => {
                  close();
                  onLanguages([tag]);
                }}
                onAlso={() =>
                  onLanguages(now.includes(tag) ? now.filter((one) => one !== tag) : [...now, tag].slice(-MOST))
                }
              />
            ))}
          </Choices>
        )}
      </Picker>
    </h1>
  );
}
