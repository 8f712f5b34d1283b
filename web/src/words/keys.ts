import { hasWords } from "./spoken";
import { t } from "./words";

/** Keys as people read them on their keyboards: "Ctrl+Home" with each key by its name in the language of the interface. */
export function keysSaid(keys: string): string {
  return keys.replace(/[A-Za-z]+( [A-Z][a-z]+)?/g, (key) => {
    const name = `key.${key}`;
    return hasWords(name) ? t(name) : key;
  });
}
