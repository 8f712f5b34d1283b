import { useCallback, useState } from "react";
import { everyTab, readKept, writeKept } from "../../sheet/outbox/browserStore";

/** How one likes to see the sheet; kept in the browser. */
export interface View {
  /** Low rows of one line each. */
  compact: boolean;
  /** Whether spaces and line breaks are shown as signs. */
  signs: boolean;
  /** Widths of columns in pixels that were changed by hand, by language; "" is the source. */
  widths: Record<string, number>;
  /** Names of sections that are folded. */
  folded: string[];
}

const KEY = "mellow.view";
const USUAL: View = { compact: false, signs: false, widths: {}, folded: [] };

/** Narrower columns show nothing. */
export const NARROWEST = 120;

function isView(kept: unknown): kept is Partial<View> {
  const { widths = {}, folded = [] } = (kept ?? {}) as Partial<View>;
  return typeof kept === "object" && typeof widths === "object" && Array.isArray(folded);
}

/** The view and a way to change a part of it. */
export function useView(): [View, (part: Partial<View>) => void] {
  const [view, setView] = useState<View>(() => ({ ...USUAL, ...readKept(everyTab, KEY, isView) }));
  const change = useCallback((part: Partial<View>) => {
    setView((before) => {
      const next = { ...before, ...part };
      writeKept(everyTab, KEY, next);
      return next;
    });
  }, []);
  return [view, change];
}
