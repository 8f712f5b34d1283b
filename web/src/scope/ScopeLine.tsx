import type { ReactNode } from "react";
import type { Schemas } from "../api/client";
import { Mark } from "./Mark";
import { Choice, Choices, Picker } from "../parts/Picker";
import { hasWords } from "../words/spoken";
import { Words } from "../words/Words";
import { anyOf, day, languageName, listed, nameOfTag, t } from "../words/words";
import { Narrowing, useParts } from "./Narrowing";
import { ORDERS, STATES, type Scope } from "./scope";
import { languagesOf, tablesOf } from "./scopeTables";
import "./scopeline.css";

/** More names than that make the sentence too long to read. */
const MOST_NAMED = 4;

/** What a scope's condition about findings says. */
function checkSaid(check: string): string {
  const key = `checks.kind.${check}`;
  return check === "any" || check === "blocker" || check === "scene"
    ? t(`scope.check.${check}`)
    : t("scope.check.kind", { kind: hasWords(key) ? t(key) : check });
}

interface ScopeLineProps {
  scope: Scope;
  tables: Schemas["TableReply"][];
  products: Schemas["ProductReply"][];
  onScope: (scope: Scope) => void;
  /** What it is counted by, on screens that count and show neither states nor an order. */
  unit?: ReactNode;
  /** The sentence of a screen that shows neither states nor an order and counts by nothing else. */
  sentence?: "scope.checked";
}

/** The scope as one sentence whose words can be changed. */
export function ScopeLine({ scope, tables, products, onScope, unit, sentence }: ScopeLineProps) {
  // Such screens look at every language when none is named.
  const every = unit !== undefined || sentence !== undefined;
  const inScope = tablesOf(scope, tables, products) ?? [];
  const languages = languagesOf(inScope);
  const entries = inScope.reduce((sum, table) => sum + table.entries, 0);
  const inOrder = (tags: string[]) => languages.map((kept) => kept.language.tag).filter((tag) => tags.includes(tag));
  const lookAt = (part: Pick<Scope, "tables" | "product">) => {
    const next = { ...scope, ...part, intake: null, section: "" };
    const kept = languagesOf(tablesOf(next, tables, products) ?? []).map((each) => each.language.tag);
    const still = scope.languages.filter((tag) => kept.includes(tag));
    onScope({ ...next, languages: still.length || every ? still : kept.slice(0, 1) });
  };
  const pickers = {
    tables: (
      <Picker label={t("scope.table")} words={tablesSaid(scope, tables, products)}>
        {(close) => (
          <Choices label={t("scope.table")}>
            <Choice
              words={t("scope.everyTable")}
              chosen={scope.tables.length === 0 && scope.product === ""}
              first={scope.tables.length === 0 && scope.product === ""}
              onChoose={() => {
                lookAt({ tables: [], product: "" });
                close();
              }}
            />
            {products.map((one) => (
              <Choice
                key={`product ${one.slug}`}
                words={one.name}
                more={t("scope.product", { n: one.tables.length, kind: t(`kind.${one.kind as "app"}`) })}
                chosen={scope.product === one.slug}
                first={scope.product === one.slug}
                onChoose={() => {
                  lookAt({ tables: [], product: one.slug });
                  close();
                }}
              />
            ))}
            {tables.map((one) => (
              <Choice
                key={one.slug}
                words={one.name}
                more={t("scope.entries", { n: one.entries })}
                chosen={scope.tables.includes(one.slug)}
                first={one.slug === scope.tables[0]}
                onChoose={() => {
                  lookAt({ tables: [one.slug], product: "" });
                  close();
                }}
                onAlso={() => lookAt({ tables: toggle(scope.tables, one.slug), product: "" })}
              />
            ))}
          </Choices>
        )}
      </Picker>
    ),
    languages: (
      <Picker
        label={t("scope.languages")}
        words={
          scope.languages.length === 0 && every
            ? t("scope.nLanguages", { n: languages.length })
            : languagesSaid(scope.languages.map((tag) => nameOfTag(tag, languages)))
        }
      >
        {() => (
          <Choices label={t("scope.languages")}>
            {languages.map(({ language, states }, at) => {
              const also = () => {
                const next = inOrder(toggle(scope.languages, language.tag));
                if (next.length || every) onScope({ ...scope, languages: next });
              };
              return (
                <Choice
                  key={language.tag}
                  words={languageName(language)}
                  more={t("scope.settled", { n: states.settled ?? 0, of: entries })}
                  chosen={scope.languages.includes(language.tag)}
                  first={scope.languages.length === 0 ? at === 0 : language.tag === scope.languages[0]}
                  onChoose={also}
                  onAlso={also}
                />
              );
            })}
          </Choices>
        )}
      </Picker>
    ),
  };
  if (every) {
    return (
      <h1 className="scopeline">
        <Words of={sentence ?? "scope.counted"} slots={{ ...pickers, unit }} />
      </h1>
    );
  }
  return (
    <h1 className="scopeline">
      <Words
        of={scope.only.length > 0 ? "scope.sentenceOnly" : "scope.sentence"}
        slots={{
          ...pickers,
          states: <StatesPicker scope={scope} onScope={onScope} />,
          order: <OrderPicker scope={scope} onScope={onScope} />,
          extras: <Extras scope={scope} onScope={onScope} />,
          narrow: (
            <Picker label={t("scope.narrow")} words={t("scope.narrowWords")}>
              {(close) => <Narrowing scope={scope} onScope={onScope} onClose={close} />}
            </Picker>
          ),
        }}
      />
    </h1>
  );
}

type PartProps = Pick<ScopeLineProps, "scope" | "onScope">;

function StatesPicker({ scope, onScope }: PartProps) {
  const words = scope.only.length === 0 ? t("scope.everything") : anyOf(scope.only.map((state) => t(`state.${state}`)));
  return (
    <Picker label={t("scope.states")} words={words}>
      {(close) => (
        <Choices label={t("scope.states")}>
          <Choice
            words={t("scope.everything")}
            chosen={scope.only.length === 0}
            first={scope.only.length === 0}
            onChoose={() => {
              onScope({ ...scope, only: [] });
              close();
            }}
          />
          {STATES.map((state) => {
            const also = () =>
              onScope({ ...scope, only: STATES.filter((one) => toggle(scope.only, state).includes(one)) });
            return (
              <Choice
                key={state}
                words={t(`state.${state}`)}
                sign={<Mark state={state} labelled={false} />}
                chosen={scope.only.includes(state)}
                first={state === scope.only[0]}
                onChoose={also}
                onAlso={also}
              />
            );
          })}
        </Choices>
      )}
    </Picker>
  );
}

function OrderPicker({ scope, onScope }: PartProps) {
  return (
    <Picker label={t("scope.order")} words={t(`scope.by.${scope.by}`)}>
      {(close) => (
        <Choices label={t("scope.order")}>
          {ORDERS.map((by) => (
            <Choice
              key={by}
              words={t(`scope.by.${by}`)}
              chosen={scope.by === by}
              first={scope.by === by}
              onChoose={() => {
                onScope({ ...scope, by });
                close();
              }}
            />
          ))}
        </Choices>
      )}
    </Picker>
  );
}

/** The narrower conditions, each of which can be left out with a click. */
function Extras({ scope, onScope }: Pick<ScopeLineProps, "scope" | "onScope">) {
  const number = String(scope.person);
  const people = useParts(scope, scope.person !== null).data?.people;
  const name = people?.find((one) => one.id === scope.person)?.name;
  const extras: [boolean, string, Partial<Scope>][] = [
    [scope.words !== "", t("scope.with", { words: scope.words }), { words: "" }],
    [scope.section !== "", t("scope.section", { section: scope.section }), { section: "" }],
    [scope.tag !== "", t("scope.tag", { tag: scope.tag }), { tag: "" }],
    [scope.asked, t("scope.parts.asked"), { asked: false }],
    [scope.check !== "", checkSaid(scope.check), { check: "" }],
    [scope.code !== "", t(`scope.code.${scope.code || "used"}`), { code: "" }],
    [scope.person !== null, name ? t("scope.personName", { name }) : t("scope.person", { number }), { person: null }],
    [scope.since !== "", t("scope.since", { day: scope.since ? day(scope.since) : "" }), { since: "" }],
    [scope.intake !== null, t("scope.fromIntake", { number: String(scope.intake) }), { intake: null }],
  ];
  return extras
    .filter(([holds]) => holds)
    .map(([, words, without]) => <Extra key={words} words={words} onDrop={() => onScope({ ...scope, ...without })} />);
}

function tablesSaid(scope: Scope, tables: Schemas["TableReply"][], products: Schemas["ProductReply"][]): string {
  if (scope.product) return products.find((one) => one.slug === scope.product)?.name ?? scope.product;
  if (scope.tables.length === 0) return t("scope.everyTable");
  if (scope.tables.length > MOST_NAMED) return t("scope.nTables", { n: scope.tables.length });
  return listed(scope.tables.map((slug) => tables.find((one) => one.slug === slug)?.name ?? t("scope.noTable")));
}

/** The names of a few languages, the number of many. */
function languagesSaid(names: string[]): string {
  if (names.length === 0) return t("scope.noLanguage");
  return names.length > MOST_NAMED ? t("scope.nLanguages", { n: names.length }) : listed(names);
}

function Extra({ words, onDrop }: { words: string; onDrop: () => void }) {
  return (
    <>
      {t("comma")}
      <button type="button" className="picker extra" aria-label={t("scope.drop", { words })} onClick={onDrop}>
        {words} ×
      </button>
    </>
  );
}

function toggle<T>(all: T[], one: T): T[] {
  return all.includes(one) ? all.filter((other) => other !== one) : [...all, one];
}
