import { useVirtualizer } from "@tanstack/react-virtual";
import { useMemo, type RefObject } from "react";
import type { Schemas } from "../../api/client";

const SOURCE_WIDTH = 280;
const TEXT_WIDTH = 210;
const OVERSCAN = 1;
/** As many columns are drawn at once whether they are in sight or not, and share the width of the window. */
export const FEW = 8;

export interface Columns {
  /** Of the grid that each line is; of many languages a line is no grid, for one of sixty tracks is slow to lay out. */
  template: string | undefined;
  /** Where each column stands and how wide it is, both in px, by index of its language; null where the line is a grid. */
  spots: Spot[] | null;
  /** The least width of a line in px, undefined for that of the window. */
  width: number | undefined;
  /** The columns of texts that exist now, by index of their language, in order. */
  shown: number[];
}

export interface Spot {
  insetInlineStart: number;
  width: number;
}

/**
 * The columns of the grid. What was made wider or narrower by hand keeps its width; of many languages only those in sight exist.
 *
 * @param widths - widths in px that were changed by hand, by language; "" is the source
 */
export function useColumns(
  scroller: RefObject<HTMLElement | null>,
  languages: Schemas["LanguageReply"][],
  widths: Record<string, number>,
): Columns {
  const few = languages.length <= FEW;
  const source = widths[""] ?? SOURCE_WIDTH;
  const virtual = useVirtualizer({
    horizontal: true,
    count: few ? 0 : languages.length,
    getScrollElement: () => scroller.current,
    estimateSize: (column) => widths[languages[column]?.language.tag ?? ""] ?? TEXT_WIDTH,
    overscan: OVERSCAN,
    // Together with what the lines draw anew for the same scrolling, and not before it.
    useFlushSync: false,
    // The source stays over the columns that are scrolled below it.
    scrollMargin: source,
  });
  const seen = few ? languages.map((_, column) => column) : virtual.getVirtualItems().map((item) => item.index);
  const key = seen.join(",");
  // The same list while the same columns are in sight: rows are drawn again when it changes.
  const shown = useMemo(() => (key === "" ? [] : key.split(",").map(Number)), [key]);
  const laid = useMemo(
    () => (few ? sharedOut(languages, widths) : spread(languages, widths)),
    [languages, widths, few],
  );
  return useMemo(() => ({ ...laid, shown }), [laid, shown]);
}

type Laid = Omit<Columns, "shown">;

function spread(languages: Schemas["LanguageReply"][], widths: Record<string, number>): Laid {
  let at = widths[""] ?? SOURCE_WIDTH;
  const spots = languages.map(({ language }) => {
    const spot = { insetInlineStart: at, width: widths[language.tag] ?? TEXT_WIDTH };
    at += spot.width;
    return spot;
  });
  return { template: undefined, spots, width: at };
}

function sharedOut(languages: Schemas["LanguageReply"][], widths: Record<string, number>): Laid {
  const source = widths[""];
  if (languages.length === 1) {
    return {
      template: `${source ? `${source}px` : "minmax(220px, 45%)"} 44px minmax(240px, 1fr)`,
      spots: null,
      width: undefined,
    };
  }
  const texts = languages.map(({ language }) => widths[language.tag]);
  return {
    template: [
      source ? `${source}px` : `minmax(${SOURCE_WIDTH}px, 330px)`,
      ...texts.map((wide) => (wide ? `${wide}px` : `minmax(${TEXT_WIDTH}px, 1fr)`)),
    ].join(" "),
    spots: null,
    width: texts.reduce<number>((sum, wide) => sum + (wide ?? TEXT_WIDTH), source ?? SOURCE_WIDTH),
  };
}
