import type { Schemas } from "../../api/client";
import { Choice, Choices, Picker } from "../../parts/Picker";
import { Words } from "../../words/Words";
import { languageName, listed, nameOfTag, t } from "../../words/words";
import { AGES, CHECKS, ORDERS, type Looking } from "./useReview";

interface Props {
  tables: Schemas["TableReply"][];
  languages: Schemas["LanguageReply"][];
  contributors: Schemas["Contributor"][];
  looking: Looking;
  onLook: (part: Partial<Looking>) => void;
}

/** What is reviewed, as one sentence whose words can be changed. */
export function ReviewLine({ tables, languages, contributors, looking, onLook }: Props) {
  const names = looking.tables.map((slug) => tables.find((one) => one.slug === slug)?.name ?? slug);
  const person = contributors.find((one) => one.id === looking.person)?.name ?? t("review.anyone");
  return (
    <h1 className="scopeline">
      <Words
        of="review.sentence"
        slots={{
          tables: (
            <OneOf
              label={t("scope.table")}
              words={names.length ? listed(names) : t("scope.everyTable")}
              choices={["", ...tables.map((one) => one.slug)]}
              chosen={(slug) => (slug === "" ? looking.tables.length === 0 : looking.tables.includes(slug))}
              said={(slug) => tables.find((one) => one.slug === slug)?.name ?? t("scope.everyTable")}
              onChoose={(slug) => onLook({ tables: slug === "" ? [] : [slug] })}
            />
          ),
          language: (
            <OneOf
              label={t("scope.languages")}
              words={nameOfTag(looking.language, languages)}
              choices={languages}
              chosen={(kept) => kept.language.tag === looking.language}
              said={(kept) => languageName(kept.language)}
              more={(kept) => t("counts.offered", { n: kept.states.offered ?? 0 })}
              onChoose={(kept) => onLook({ language: kept.language.tag, person: 0 })}
            />
          ),
          person: (
            <OneOf
              label={t("review.contributors")}
              words={looking.person === 0 ? t("review.anyone") : person}
              choices={[{ id: 0, name: t("review.anyone") }, ...contributors]}
              chosen={(one) => one.id === looking.person}
              said={(one) => one.name}
              onChoose={(one) => onLook({ person: one.id })}
            />
          ),
          age: (
            <OneOf
              label={t("review.age")}
              words={ageSaid(looking.days)}
              choices={[...AGES]}
              chosen={(days) => days === looking.days}
              said={ageSaid}
              onChoose={(days) => onLook({ days })}
            />
          ),
          checks: (
            <OneOf
              label={t("review.checks")}
              words={t(`review.checks.${looking.checks}`)}
              choices={[...CHECKS]}
              chosen={(one) => one === looking.checks}
              said={(one) => t(`review.checks.${one}`)}
              onChoose={(checks) => onLook({ checks })}
            />
          ),
          order: (
            <OneOf
              label={t("review.order")}
              words={t(`review.order.${looking.order}`)}
              choices={[...ORDERS]}
              chosen={(one) => one === looking.order}
              said={(one) => t(`review.order.${one}`)}
              onChoose={(order) => onLook({ order })}
            />
          ),
        }}
      />
    </h1>
  );
}

function ageSaid(days: number): string {
  return days === 0 ? t("review.anyAge") : t("review.olderThan", { n: days });
}

interface OneOfProps<T> {
  label: string;
  words: string;
  choices: T[];
  chosen: (one: T) => boolean;
  said: (one: T) => string;
  more?: (one: T) => string;
  onChoose: (one: T) => void;
}

function OneOf<T>({ label, words, choices, chosen, said, more, onChoose }: OneOfProps<T>) {
  return (
    <Picker label={label} words={words}>
      {(close) => (
        <Choices label={label}>
          {choices.map((one) => (
            <Choice
              key={said(one)}
              words={said(one)}
              more={more?.(one)}
              chosen={chosen(one)}
              first={chosen(one)}
              onChoose={() => {
                onChoose(one);
                close();
              }}
            />
          ))}
        </Choices>
      )}
    </Picker>
  );
}
