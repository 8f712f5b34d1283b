import { Checkbox, List, ListItemButton, ListItemText, Popover, Radio } from "@mui/material";
import { useState, type ReactNode } from "react";
import type { Schemas } from "../../api/client";
import { t, when } from "../../words/words";
import { Mark } from "./Mark";
import { Narrowing, useParts } from "./Narrowing";
import { ORDERS, STATES, type CellState, type Scope } from "../../scope/scope";
import { languagesOf, tablesOf } from "../../scope/scopeTables";
import "./scopeline.css";

/** More names than that make the sentence too long to read. */
const MOST_NAMED = 4;

/** A dotted-underlined word of the sentence that opens a list to pick from. */
export function Picker({
  label,
  words,
  children,
}: {
  label: string;
  words: string;
  children: (close: () => void) => ReactNode;
}) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const close = () => setAnchor(null);
  return (
    <>
      <button
        type="button"
        className="picker"
        aria-haspopup="dialog"
        aria-label={`${label}: ${words}`}
        onClick={(event) => setAnchor(event.currentTarget)}
      >
        {words}
      </button>
      <Popover
        open={anchor !== null}
        anchorEl={anchor}
        onClose={close}
        anchorOrigin={{ vertical: "bottom", horizontal: "left" }}
        slotProps={{ paper: { "aria-label": label, role: "dialog", sx: { maxHeight: 420, minWidth: 240 } } }}
      >
        {children(close)}
      </Popover>
    </>
  );
}

interface ScopeLineProps {
  scope: Scope;
  tables: Schemas["TableReply"][];
  products: Schemas["ProductReply"][];
  onScope: (scope: Scope) => void;
  /** What takes the place of states and order on screens that show neither. */
  counted?: ReactNode;
}

/** The scope as one sentence whose words can be changed. */
export function ScopeLine({ scope, tables, products, onScope, counted }: ScopeLineProps) {
  const inScope = tablesOf(scope, tables, products) ?? [];
  const languages = languagesOf(inScope);
  const entries = inScope.reduce((sum, table) => sum + table.entries, 0);
  const toggle = <T,>(all: T[], one: T) => (all.includes(one) ? all.filter((other) => other !== one) : [...all, one]);
  const inOrder = (tags: string[]) => languages.map((kept) => kept.language.tag).filter((tag) => tags.includes(tag));
  const onlyWords =
    scope.only.length === 0 ? t("scope.everything") : orList(scope.only.map((state) => t(`state.${state}`)));
  const lookAt = (part: Pick<Scope, "tables" | "product">) => {
    const next = { ...scope, ...part, intake: null, section: "" };
    const kept = languagesOf(tablesOf(next, tables, products) ?? []).map((each) => each.language.tag);
    const still = scope.languages.filter((tag) => kept.includes(tag));
    onScope({ ...next, languages: still.length || counted ? still : kept.slice(0, 1) });
  };
  return (
    <h1 className="scopeline">
      {t("scope.reading")}{" "}
      <Picker label={t("scope.table")} words={tablesSaid(scope, tables, products)}>
        {(close) => (
          <List dense>
            <ListItemButton
              selected={scope.tables.length === 0 && scope.product === ""}
              onClick={() => {
                lookAt({ tables: [], product: "" });
                close();
              }}
            >
              <ListItemText primary={t("scope.everyTable")} />
            </ListItemButton>
            {products.map((one) => (
              <ListItemButton
                key={`product ${one.slug}`}
                selected={scope.product === one.slug}
                onClick={() => {
                  lookAt({ tables: [], product: one.slug });
                  close();
                }}
              >
                <ListItemText
                  primary={one.name}
                  secondary={t("scope.product", { n: one.tables.length, kind: t(`kind.${one.kind as "app"}`) })}
                />
              </ListItemButton>
            ))}
            {tables.map((one) => (
              <ListItemButton
                key={one.slug}
                selected={scope.tables.includes(one.slug)}
                autoFocus={one.slug === scope.tables[0]}
                onClick={() => {
                  lookAt({ tables: [one.slug], product: "" });
                  close();
                }}
              >
                <Checkbox
                  edge="start"
                  size="small"
                  tabIndex={-1}
                  checked={scope.tables.includes(one.slug)}
                  slotProps={{ input: { "aria-label": t("scope.also", { table: one.name }) } }}
                  onClick={(event) => {
                    event.stopPropagation();
                    lookAt({ tables: toggle(scope.tables, one.slug), product: "" });
                  }}
                />
                <ListItemText primary={one.name} secondary={t("scope.entries", { n: one.entries })} />
              </ListItemButton>
            ))}
          </List>
        )}
      </Picker>{" "}
      {t("scope.in")}{" "}
      <Picker
        label={t("scope.languages")}
        words={
          scope.languages.length === 0 && counted
            ? t("scope.nLanguages", { n: languages.length })
            : languagesSaid(scope.languages.map((tag) => nameOf(languages, tag)))
        }
      >
        {() => (
          <List dense>
            {languages.map(({ language, states }) => (
              <ListItemButton
                key={language.tag}
                onClick={() => {
                  const next = inOrder(toggle(scope.languages, language.tag));
                  if (next.length || counted) onScope({ ...scope, languages: next });
                }}
              >
                <Checkbox
                  edge="start"
                  size="small"
                  tabIndex={-1}
                  checked={scope.languages.includes(language.tag)}
                  slotProps={{ input: { "aria-label": language.englishName } }}
                />
                <ListItemText
                  primary={language.englishName}
                  secondary={t("scope.settled", { n: states.settled ?? 0, of: entries })}
                />
              </ListItemButton>
            ))}
          </List>
        )}
      </Picker>
      {counted ?? (
        <>
          {scope.only.length > 0 ? `, ${t("scope.only")} ` : ", "}
          <Picker label={t("scope.states")} words={onlyWords}>
            {(close) => (
              <List dense>
                <ListItemButton
                  onClick={() => {
                    onScope({ ...scope, only: [] });
                    close();
                  }}
                >
                  <Radio
                    edge="start"
                    size="small"
                    tabIndex={-1}
                    checked={scope.only.length === 0}
                    slotProps={{ input: { "aria-label": t("scope.everything") } }}
                  />
                  <ListItemText primary={t("scope.everything")} />
                </ListItemButton>
                {STATES.map((state: CellState) => (
                  <ListItemButton
                    key={state}
                    onClick={() =>
                      onScope({ ...scope, only: STATES.filter((one) => toggle(scope.only, state).includes(one)) })
                    }
                  >
                    <Checkbox
                      edge="start"
                      size="small"
                      tabIndex={-1}
                      checked={scope.only.includes(state)}
                      slotProps={{ input: { "aria-label": t(`state.${state}`) } }}
                    />
                    <Mark state={state} labelled={false} />
                    <ListItemText sx={{ ml: 2 }} primary={t(`state.${state}`)} />
                  </ListItemButton>
                ))}
              </List>
            )}
          </Picker>
          {", "}
          <Picker label={t("scope.order")} words={t(`scope.by.${scope.by}`)}>
            {(close) => (
              <List dense>
                {ORDERS.map((by) => (
                  <ListItemButton
                    key={by}
                    selected={scope.by === by}
                    onClick={() => {
                      onScope({ ...scope, by });
                      close();
                    }}
                  >
                    <ListItemText primary={t(`scope.by.${by}`)} />
                  </ListItemButton>
                ))}
              </List>
            )}
          </Picker>
        </>
      )}
      {!counted && (
        <>
          <Extras scope={scope} onScope={onScope} />
          {", "}
          <Picker label={t("scope.narrow")} words={t("scope.narrowWords")}>
            {(close) => <Narrowing scope={scope} onScope={onScope} onClose={close} />}
          </Picker>
        </>
      )}
    </h1>
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
    [scope.check !== "", t(scope.check === "any" ? "scope.check.any" : "scope.check.blocker"), { check: "" }],
    [scope.person !== null, name ? t("scope.personName", { name }) : t("scope.person", { number }), { person: null }],
    [scope.since !== "", t("scope.since", { when: scope.since ? when(scope.since) : "" }), { since: "" }],
    [scope.intake !== null, t("scope.fromIntake", { number: String(scope.intake) }), { intake: null }],
  ];
  return extras
    .filter(([holds]) => holds)
    .map(([, words, without]) => <Extra key={words} words={words} onDrop={() => onScope({ ...scope, ...without })} />);
}

function nameOf(languages: Schemas["LanguageReply"][], tag: string): string {
  return languages.find((kept) => kept.language.tag === tag)?.language.englishName ?? tag;
}

function tablesSaid(scope: Scope, tables: Schemas["TableReply"][], products: Schemas["ProductReply"][]): string {
  if (scope.product) return products.find((one) => one.slug === scope.product)?.name ?? scope.product;
  if (scope.tables.length === 0) return t("scope.everyTable");
  if (scope.tables.length > MOST_NAMED) return t("scope.nTables", { n: scope.tables.length });
  return scope.tables.map((slug) => tables.find((one) => one.slug === slug)?.name ?? t("scope.noTable")).join(", ");
}

/** The names of a few languages, the number of many. */
function languagesSaid(names: string[]): string {
  if (names.length === 0) return t("scope.noLanguage");
  return names.length > MOST_NAMED ? t("scope.nLanguages", { n: names.length }) : names.join(", ");
}

function Extra({ words, onDrop }: { words: string; onDrop: () => void }) {
  return (
    <>
      {", "}
      <button type="button" className="picker extra" aria-label={t("scope.drop", { words })} onClick={onDrop}>
        {words} ×
      </button>
    </>
  );
}

function orList(items: string[]): string {
  return new Intl.ListFormat("en", { type: "disjunction" }).format(items);
}
