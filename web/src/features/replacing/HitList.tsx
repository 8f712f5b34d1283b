import { Checkbox } from "@mui/material";
import { useVirtualizer } from "@tanstack/react-virtual";
import { useRef } from "react";
import type { Schemas } from "../../api/client";
import { t } from "../../words/words";
import { inOneLine, mainForm, type Forms } from "../../text/shapes";
import { DiffShown } from "../../text/TextShown";
import { wordDiff } from "../../text/wordDiff";

const ROW = 44;

interface Props {
  hits: Schemas["Hit"][];
  /** The entries that are not ticked. */
  left: ReadonlySet<number>;
  onLeft: (left: ReadonlySet<number>) => void;
  lang: string;
  rightToLeft: boolean;
}

/** Every hit with what would change in it; only the rows in sight exist. */
export function HitList({ hits, left, onLeft, lang, rightToLeft }: Props) {
  const scroller = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({
    count: hits.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    overscan: 8,
  });
  const toggle = (entry: number) => {
    const next = new Set(left);
    if (!next.delete(entry)) next.add(entry);
    onLeft(next);
  };
  return (
    <>
      <label className="all">
        <Checkbox
          size="small"
          checked={left.size === 0}
          indeterminate={left.size > 0 && left.size < hits.length}
          onChange={(_, on) => onLeft(on ? new Set() : new Set(hits.map((hit) => hit.entry)))}
        />
        {t("replace.all")}
      </label>
      <div ref={scroller} className="hits" role="list" tabIndex={0} aria-label={t("replace.hits")}>
        <div style={{ height: virtual.getTotalSize() }} role="presentation">
          {virtual.getVirtualItems().map((item) => {
            const hit = hits[item.index];
            if (!hit) return null;
            const shown = (forms: Forms) =>
              inOneLine(mainForm(forms), Object.keys(forms).length > 1 ? forms : undefined);
            return (
              <div
                key={hit.entry}
                role="listitem"
                className="hit"
                ref={virtual.measureElement}
                data-index={item.index}
                style={{ transform: `translateY(${item.start}px)` }}
              >
                <Checkbox
                  size="small"
                  checked={!left.has(hit.entry)}
                  slotProps={{ input: { "aria-label": hit.key } }}
                  onChange={() => toggle(hit.entry)}
                />
                <span className="key">
                  {hit.key}
                  {hit.settled && <small> {t("replace.settled")}</small>}
                </span>
                <span className="said" lang={lang} dir={rightToLeft ? "rtl" : "ltr"}>
                  <DiffShown runs={wordDiff(shown(hit.before), shown(hit.after))} />
                </span>
              </div>
            );
          })}
        </div>
      </div>
    </>
  );
}
