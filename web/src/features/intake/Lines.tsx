import { TextField } from "@mui/material";
import { useVirtualizer } from "@tanstack/react-virtual";
import { useDeferredValue, useEffect, useRef, useState } from "react";
import { loadFontsOf } from "../../theme/fonts";
import { t } from "../../words/words";
import { ChoiceSwitch } from "./ChoiceSwitch";
import { LineShown } from "./LineShown";
import { LINES_PER_PAGE, useLines, type Choice, type Group } from "./useIntake";

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
        {onChoose && (
          <TextField
            size="small"
            value={typed}
            placeholder={t("lines.find")}
            slotProps={{ htmlInput: { "aria-label": t("lines.find") } }}
            onChange={(event) => setTyped(event.target.value)}
          />
        )}
        <span className="soft">{ofTexts ? t("lines.texts") : t("lines.sources")}</span>
        {onChoose && group.choices.length > 1 && (
          <ChoiceSwitch
            label={t("lines.all", { n: find ? total : group.count })}
            choices={group.choices}
            value={find ? null : onlyOne(group)}
            busy={busy || total === 0}
            onChoose={(choice) => onChoose(choice, undefined, find)}
          />
        )}
      </div>
      <div ref={scroller} className="changebody" tabIndex={0} role="region" aria-label={t(`group.${group.kind}`)}>
        {onChoose && first.isSuccess && total === 0 && <p className="soft firstof">{t("lines.none")}</p>}
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
          <p className="soft firstof">{t("intake.firstOf", { shown: group.lines.length, n: group.count })}</p>
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
  "STOPPED",
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
