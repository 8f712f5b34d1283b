import { useCallback, useState } from "react";

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

function read(): View {
  try {
    return { ...USUAL, ...(JSON.parse(localStorage.getItem(KEY) ?? "{}") as Partial<View>) };
  } catch {
    // Something else wrote there; how one likes to see things is not worth an error.
    return USUAL;
  }
}

/** The view and a way to change a part of it. */
export function useView(): [View, (part: Partial<View>) => void] {
  const [view, setView] = useState(read);
  const change = useCallback((part: Partial<View>) => {
    setView((before) => {
      const next = { ...before, ...part };
      localStorage.setItem(KEY, JSON.stringify(next));
      return next;
    });
  }, []);
  return [view, change];
}
