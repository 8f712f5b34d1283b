import { TextField, ToggleButton, ToggleButtonGroup } from "@mui/material";
import { useVirtualizer } from "@tanstack/react-virtual";
import { useDeferredValue, useEffect, useRef, useState } from "react";
import { loadFontsOf } from "../../theme/fonts";
import { t, type WordKey } from "../../words/words";
import { Mark } from "../ledger/Mark";
import { inOrder } from "../ledger/shapes";
import type { CellState } from "../ledger/scope";
import { DiffShown, TextShown } from "../ledger/TextShown";
import { wordDiff } from "../ledger/wordDiff";
import { LINES_PER_PAGE, useLines, type Choice, type Group, type Line } from "./useIntake";

const ROW_HEIGHT = 92;

interface Props {
  intake: number;
  group: Group;
  /** Absent for a report, whose lines are told and not asked for. */
  onChoose?: (choice: Choice, lines: number[] | undefined, find: string) => void;
  busy: boolean;
}

/** The lines of one kind of change as a spread: the record at the left, what becomes of it at the right; only those seen exist. */
export function Lines({ intake, group, onChoose, busy }: Props) {
  const [typed, setTyped] = useState("");
  const find = useDeferredValue(typed.trim());
  const scroller = useRef<HTMLDivElement>(null);
  const first = useLines(intake, group.kind, find, 0, onChoose !== undefined);
  const total = onChoose ? (first.data?.total ?? 0) : group.lines.length;
  const virtual = useVirtualizer({
    count: total,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW_HEIGHT,
    overscan: 8,
  });
  const items = virtual.getVirtualItems();
  const pages = [...new Set(items.map((item) => Math.floor(item.index / LINES_PER_PAGE)))];
  const ofTexts = TEXT_KINDS.has(group.kind);
  return (
    <div className="changelist">
      <div className="changehead">
        <TextField
          size="small"
          value={typed}
          placeholder={t("lines.find")}
          slotProps={{ htmlInput: { "aria-label": t("lines.find") } }}
          onChange={(event) => setTyped(event.target.value)}
          disabled={!onChoose}
        />
        <span className="soft">{ofTexts ? t("lines.texts") : t("lines.sources")}</span>
        {onChoose && group.choices.length > 1 && (
          <Switch
            label={t("lines.all", { n: find ? total : group.count })}
            choices={group.choices}
            value={find ? null : onlyOne(group)}
            busy={busy || total === 0}
            onChoose={(choice) => onChoose(choice, undefined, find)}
          />
        )}
      </div>
      <div ref={scroller} className="changebody" tabIndex={0} role="region" aria-label={t(`group.${group.kind}`)}>
        {onChoose && first.isSuccess && total === 0 && <p className="soft more">{t("lines.none")}</p>}
        <ol style={{ height: virtual.getTotalSize() }}>
          {pages.map((page) => (
            <PageOfLines
              key={page}
              intake={intake}
              group={group}
              find={find}
              page={page}
              items={items.filter((item) => Math.floor(item.index / LINES_PER_PAGE) === page)}
              measure={virtual.measureElement}
              busy={busy}
              onChoose={onChoose}
            />
          ))}
        </ol>
        {!onChoose && group.count > group.lines.length && (
          <p className="soft more">{t("intake.firstOf", { shown: group.lines.length, n: group.count })}</p>
        )}
      </div>
    </div>
  );
}

const TEXT_KINDS = new Set<Group["kind"]>([
  "TEXTS_ADDED",
  "TEXTS_REPLACED",
  "CONFLICTS",
  "DIFFER_FROM_SETTLED",
  "PLACEHOLDERS",
  "HIGHER_STANDING",
  "EMPTIED_IN_FILE",
]);

function onlyOne(group: Group): Choice | null {
  const chosen = Object.keys(group.chosen) as Choice[];
  return chosen.length === 1 ? (chosen[0] ?? null) : null;
}

interface PageProps {
  intake: number;
  group: Group;
  find: string;
  page: number;
  items: { index: number; start: number }[];
  measure: (element: Element | null) => void;
  busy: boolean;
  onChoose?: Props["onChoose"];
}

function PageOfLines({ intake, group, find, page, items, measure, busy, onChoose }: PageProps) {
  const asked = useLines(intake, group.kind, find, page, onChoose !== undefined);
  const lines = onChoose ? asked.data?.lines : group.lines.slice(page * LINES_PER_PAGE, (page + 1) * LINES_PER_PAGE);
  useEffect(() => {
    for (const line of lines ?? []) loadFontsOf(`${line.before ?? ""}${line.after ?? ""}`);
  }, [lines]);
  return items.map(({ index, start }) => {
    const line = lines?.[index % LINES_PER_PAGE];
    return (
      <li
        key={index}
        ref={measure}
        data-index={index}
        className="changeline"
        style={{ transform: `translateY(${start}px)` }}
        aria-setsize={group.count}
        aria-posinset={index + 1}
      >
        {line ? (
          <LineShown
            group={group}
            line={line}
            busy={busy}
            onChoose={onChoose && ((choice) => onChoose(choice, [line.n], find))}
          />
        ) : (
          <span className="soft">{asked.isError ? asked.error.message : "…"}</span>
        )}
      </li>
    );
  });
}

interface LineProps {
  group: Group;
  line: Line;
  busy: boolean;
  onChoose?: (choice: Choice) => void;
}

function LineShown({ group, line, busy, onChoose }: LineProps) {
  const ofText = line.language !== undefined;
  const diff = line.before !== undefined && line.after !== undefined && !line.beforeForms && !line.afterForms;
  const rewritten = !ofText && diff;
  return (
    <>
      <div className="source">
        <div className="remark">
          <span className="key">{line.key}</span>
          {line.formerKey && <del className="key">{line.formerKey}</del>}
          {ofText && <span>{line.language}</span>}
        </div>
        {line.source && (
          <div className="words">
            <TextShown text={line.source} />
          </div>
        )}
        <Words line={line} side={ofText ? "before" : "source"} diff={rewritten ? "both" : undefined} />
        {onChoose && group.choices.length > 1 && (
          <Switch
            label={t("lines.one", { key: line.key })}
            choices={group.choices}
            value={line.choice}
            busy={busy}
            onChoose={onChoose}
          />
        )}
      </div>
      <div className="gutter">
        <Mark state={markOf(group, line)} />
      </div>
      <div className="becoming">
        {ofText && <Words line={line} side="after" diff={diff ? "both" : undefined} />}
        <span className={`becomes ${line.becomes ?? (line.choice === "CHANGED" ? "stale" : "soft")}`}>
          {whatHappens(group, line)}
        </span>
      </div>
    </>
  );
}

function Words({ line, side, diff }: { line: Line; side: "before" | "after" | "source"; diff?: "both" }) {
  const forms =
    side === "before" ? line.beforeForms : (line.afterForms ?? (side === "source" ? line.beforeForms : undefined));
  const text = side === "before" ? line.before : (line.after ?? (side === "source" ? line.before : undefined));
  return (
    <div className="words" lang={side === "source" ? undefined : line.language} dir="auto">
      {forms ? (
        inOrder(forms).map(([form, words]) => (
          <div key={form}>
            <span className="soft">{form}</span> <TextShown text={words} />
          </div>
        ))
      ) : diff ? (
        <DiffShown runs={wordDiff(line.before ?? "", line.after ?? "")} />
      ) : text ? (
        <TextShown text={text} />
      ) : (
        <span className="soft">{t("lines.nothing")}</span>
      )}
    </div>
  );
}

/** The state that the cell, or the texts of the entry, will show. */
function markOf(group: Group, line: Line): CellState {
  if (line.becomes) return line.becomes as CellState;
  if (line.language !== undefined) {
    if (line.choice === "CLEAR" || line.before === undefined) return "untranslated";
    return group.kind === "HIGHER_STANDING" ? "pencilled" : "settled";
  }
  return line.choice === "CHANGED" && line.stale.length > 0
    ? "stale"
    : line.stale.length > 0
      ? "settled"
      : "untranslated";
}

/** One phrase that says what the choice does to the line. */
function whatHappens(group: Group, line: Line): string {
  if (line.becomes) return t(`becomes.${line.becomes as "settled"}`);
  if (line.language !== undefined) return t(line.choice === "CLEAR" ? "happens.cleared" : "happens.stays");
  switch (line.choice) {
    case "CHANGED":
      return line.stale.length > 0
        ? t("happens.stale", { languages: line.stale.join(", "), n: line.stale.length })
        : t("happens.noTexts");
    case "FIX":
      return t("happens.hold", { n: line.stale.length });
    case "TAKE":
    case "BOTH":
    case "REPLACE":
      if (group.kind === "DESCRIPTIONS") return t("happens.described");
      return `${line.choice === "REPLACE" ? `${t("happens.replaced")} ` : ""}${t("happens.added", { n: line.texts })}`;
    case "RENAME":
      return t("happens.renamed");
    case "REMOVE":
      return t("happens.removed");
    case "PUT_BACK":
      return t("happens.putBack");
    default:
      return t(group.choices.length > 1 ? "happens.kept" : `group.${group.kind}.words`);
  }
}

interface SwitchProps {
  label: string;
  choices: Choice[];
  value: Choice | null;
  busy: boolean;
  onChoose: (choice: Choice) => void;
}

function Switch({ label, choices, value, busy, onChoose }: SwitchProps) {
  return (
    <ToggleButtonGroup
      exclusive
      size="small"
      className="choiceswitch"
      aria-label={label}
      value={value}
      disabled={busy}
      onChange={(_, choice: Choice | null) => choice && onChoose(choice)}
    >
      {choices.map((choice) => (
        <ToggleButton key={choice} value={choice} className={choice.toLowerCase()}>
          {t(`choice.${choice}` as WordKey)}
        </ToggleButton>
      ))}
    </ToggleButtonGroup>
  );
}
