import { useEffect } from "react";
import { loadFontFor } from "./fonts";

/** Has the faces at hand that texts in these scripts need; a language that is not known yet needs none. */
export function useFontFor(...scripts: (string | undefined)[]): void {
  const all = [...new Set(scripts)].sort().join(" ");
  useEffect(() => {
    for (const script of all.split(" ")) loadFontFor(script);
  }, [all]);
}
