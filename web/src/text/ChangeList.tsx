import { Checkbox } from "@mui/material";
import { useVirtualizer } from "@tanstack/react-virtual";
import { useRef } from "react";
import { t } from "../words/words";
import { inOneLine, mainForm, type Forms } from "./shapes";
import { DiffShown } from "./TextShown";
import { wordDiff } from "./wordDiff";
import "./textchanges.css";

const ROW = 44;

/** A text that would change. */
export interface TextChange<Id> {
  id: Id;
  /** What it is called: its key. */
  name: string;
  settled: boolean;
  before: Forms;
  after: Forms;
  lang: string;
  rightToLeft: boolean;
}

interface Props<Id> {
  label: string;
  changes: TextChange<Id>[];
  /** Those that are not ticked. */
  left: ReadonlySet<Id>;
  onLeft: (left: ReadonlySet<Id>) => void;
}

/** Texts with what would change in each, to be ticked; only the rows in sight exist. */
export function ChangeList<Id extends string | number>({ label, changes, left, onLeft }: Props<Id>) {
  const scroller = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({
    count: changes.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    overscan: 8,
  });
  const toggle = (id: Id) => {
    const next = new Set(left);
    if (!next.delete(id)) next.add(id);
    onLeft(next);
  };
  const shown = (forms: Forms) => inOneLine(mainForm(forms), Object.keys(forms).length > 1 ? forms : undefined);
  return (
    <div className="textchanges">
      <label className="every">
        <Checkbox
          size="small"
          checked={left.size === 0}
          indeterminate={left.size > 0 && left.size < changes.length}
          onChange={(_, on) => onLeft(on ? new Set() : new Set(changes.map((change) => change.id)))}
        />
        {t("replace.all")}
      </label>
      <div ref={scroller} className="changes" role="list" tabIndex={0} aria-label={label}>
        <div style={{ height: virtual.getTotalSize() }} role="presentation">
          {virtual.getVirtualItems().map((item) => {
            const change = changes[item.index];
            if (!change) return null;
            return (
              <div
                key={change.id}
                role="listitem"
                className="change"
                ref={virtual.measureElement}
                data-index={item.index}
                style={{ transform: `translateY(${item.start}px)` }}
              >
                <Checkbox
                  size="small"
                  checked={!left.has(change.id)}
                  slotProps={{ input: { "aria-label": change.name } }}
                  onChange={() => toggle(change.id)}
                />
                <span className="name">
                  {change.name}
                  {change.settled && <small> {t("replace.settled")}</small>}
                </span>
                <span className="words" lang={change.lang} dir={change.rightToLeft ? "rtl" : "ltr"}>
                  <DiffShown runs={wordDiff(shown(change.before), shown(change.after))} />
                </span>
              </div>
            );
          })}
        </div>
      </div>
    </div>
  );
}
