import { List, ListItemButton, ListItemText } from "@mui/material";
import type { Schemas } from "../../api/client";
import { t } from "../../words/words";
import { Picker } from "../ledger/ScopeLine";
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
  const language = languages.find((kept) => kept.language.tag === looking.language)?.language.englishName;
  const person = contributors.find((one) => one.id === looking.person)?.name ?? t("review.anyone");
  return (
    <h1 className="scopeline">
      {t("review.reviewing")}{" "}
      <Picker label={t("scope.table")} words={names.length ? names.join(", ") : t("scope.everyTable")}>
        {(close) => (
          <Choices
            choices={["", ...tables.map((one) => one.slug)]}
            chosen={(slug) => (slug === "" ? looking.tables.length === 0 : looking.tables.includes(slug))}
            said={(slug) => tables.find((one) => one.slug === slug)?.name ?? t("scope.everyTable")}
            onChoose={(slug) => {
              onLook({ tables: slug === "" ? [] : [slug] });
              close();
            }}
          />
        )}
      </Picker>{" "}
      {t("scope.in")}{" "}
      <Picker label={t("scope.languages")} words={language ?? looking.language}>
        {(close) => (
          <Choices
            choices={languages}
            chosen={(kept) => kept.language.tag === looking.language}
            said={(kept) => kept.language.englishName}
            more={(kept) => t("counts.offered", { n: kept.states.offered ?? 0 })}
            onChoose={(kept) => {
              onLook({ language: kept.language.tag, person: 0 });
              close();
            }}
          />
        )}
      </Picker>
      , {t("review.offeredBy")}{" "}
      <Picker label={t("review.contributors")} words={looking.person === 0 ? t("review.anyone") : person}>
        {(close) => (
          <Choices
            choices={[{ id: 0, name: t("review.anyone") }, ...contributors]}
            chosen={(one) => one.id === looking.person}
            said={(one) => one.name}
            onChoose={(one) => {
              onLook({ person: one.id });
              close();
            }}
          />
        )}
      </Picker>
      ,{" "}
      <Picker label={t("review.age")} words={ageSaid(looking.days)}>
        {(close) => (
          <Choices
            choices={[...AGES]}
            chosen={(days) => days === looking.days}
            said={ageSaid}
            onChoose={(days) => {
              onLook({ days });
              close();
            }}
          />
        )}
      </Picker>
      ,{" "}
      <Picker label={t("review.checks")} words={t(`review.checks.${looking.checks}`)}>
        {(close) => (
          <Choices
            choices={[...CHECKS]}
            chosen={(one) => one === looking.checks}
            said={(one) => t(`review.checks.${one}`)}
            onChoose={(checks) => {
              onLook({ checks });
              close();
            }}
          />
        )}
      </Picker>
      ,{" "}
      <Picker label={t("review.order")} words={t(`review.order.${looking.order}`)}>
        {(close) => (
          <Choices
            choices={[...ORDERS]}
            chosen={(one) => one === looking.order}
            said={(one) => t(`review.order.${one}`)}
            onChoose={(order) => {
              onLook({ order });
              close();
            }}
          />
        )}
      </Picker>
    </h1>
  );
}

function ageSaid(days: number): string {
  return days === 0 ? t("review.anyAge") : t("review.olderThan", { n: days });
}

interface ChoicesProps<T> {
  choices: T[];
  chosen: (one: T) => boolean;
  said: (one: T) => string;
  more?: (one: T) => string;
  onChoose: (one: T) => void;
}

function Choices<T>({ choices, chosen, said, more, onChoose }: ChoicesProps<T>) {
  return (
    <List dense>
      {choices.map((one) => (
        <ListItemButton key={said(one)} selected={chosen(one)} autoFocus={chosen(one)} onClick={() => onChoose(one)}>
          <ListItemText primary={said(one)} secondary={more?.(one)} />
        </ListItemButton>
      ))}
    </List>
  );
}
