import {
  Button,
  Checkbox,
  Dialog,
  DialogContent,
  DialogTitle,
  List,
  ListItemButton,
  ListItemText,
  Popover,
  Radio,
} from "@mui/material";
import { useState, type ReactNode } from "react";
import type { Schemas } from "../../api/client";
import { t } from "../../words/words";
import { KEYS } from "./keyboard";
import { Mark } from "./Mark";
import { STATES, type CellState, type Scope } from "./scope";
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
  onScope: (scope: Scope) => void;
}

/** The scope as one sentence whose words can be changed. */
export function ScopeLine({ scope, tables, onScope }: ScopeLineProps) {
  const table = tables.find((one) => one.slug === scope.table);
  const languages = table?.languages ?? [];
  const nameOf = (tag: string) => languages.find((kept) => kept.language.tag === tag)?.language.englishName ?? tag;
  const toggle = <T,>(all: T[], one: T) => (all.includes(one) ? all.filter((other) => other !== one) : [...all, one]);
  const inOrder = (tags: string[]) => languages.map((kept) => kept.language.tag).filter((tag) => tags.includes(tag));
  const onlyWords =
    scope.only.length === 0 ? t("scope.everything") : orList(scope.only.map((state) => t(`state.${state}`)));
  return (
    <h1 className="scopeline">
      {t("scope.reading")}{" "}
      <Picker label={t("scope.table")} words={table?.name ?? t("scope.noTable")}>
        {(close) => (
          <List dense>
            {tables.map((one) => (
              <ListItemButton
                key={one.slug}
                selected={one.slug === scope.table}
                autoFocus={one.slug === scope.table}
                onClick={() => {
                  const kept = one.languages.map((each) => each.language.tag);
                  const still = scope.languages.filter((tag) => kept.includes(tag));
                  onScope({
                    ...scope,
                    table: one.slug,
                    languages: still.length ? still : kept.slice(0, 1),
                    intake: null,
                  });
                  close();
                }}
              >
                <ListItemText primary={one.name} secondary={t("scope.entries", { n: one.entries })} />
              </ListItemButton>
            ))}
          </List>
        )}
      </Picker>{" "}
      {t("scope.in")}{" "}
      <Picker label={t("scope.languages")} words={languagesSaid(scope.languages.map(nameOf))}>
        {() => (
          <List dense>
            {languages.map(({ language, states }) => (
              <ListItemButton
                key={language.tag}
                onClick={() => {
                  const next = inOrder(toggle(scope.languages, language.tag));
                  if (next.length) onScope({ ...scope, languages: next });
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
                  secondary={t("scope.settled", { n: states.settled ?? 0, of: table?.entries ?? 0 })}
                />
              </ListItemButton>
            ))}
          </List>
        )}
      </Picker>
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
            {(["section", "key"] as const).map((by) => (
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
      {scope.words && (
        <Extra words={t("scope.with", { words: scope.words })} onDrop={() => onScope({ ...scope, words: "" })} />
      )}
      {scope.intake !== null && (
        <Extra
          words={t("scope.fromIntake", { number: String(scope.intake) })}
          onDrop={() => onScope({ ...scope, intake: null })}
        />
      )}
    </h1>
  );
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

/** All keys of the sheet. */
export function KeysDialog({ open, onClose }: { open: boolean; onClose: () => void }) {
  return (
    <Dialog open={open} onClose={onClose} aria-labelledby="keys-title">
      <DialogTitle id="keys-title">{t("keys.title")}</DialogTitle>
      <DialogContent>
        <table className="keys">
          <tbody>
            {KEYS.map(([keys, meaning]) => (
              <tr key={keys + meaning}>
                <th scope="row">
                  <kbd>{keys}</kbd>
                </th>
                <td>{t(meaning)}</td>
              </tr>
            ))}
          </tbody>
        </table>
        <Button onClick={onClose}>{t("close")}</Button>
      </DialogContent>
    </Dialog>
  );
}
