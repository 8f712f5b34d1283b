import type { Forms } from "./shapes";
import { waiting } from "./waiting";

let person = 0;
const prefix = () => `mellow.unsaved.${person}.`;

/** A text that the server does not have yet. */
export interface Unsaved {
  entry: number;
  language: string;
  text: string;
  /** All forms of a text that is not plain. */
  forms?: Forms;
  /** What it was to become when it was sent; absent for one that was being typed or waits for a decision. */
  sending?: { action: string; version: number; offer?: number };
}

/** Texts that the server does not have yet, kept in the browser so that a reload or a stopped server loses none. */
export const unsaved = {
  /** Says whose texts these are: nobody's text is ever sent under another's name, on a computer that several share. */
  belongTo(id: number): void {
    if (person !== id && waiting.size > 0) waiting.clear();
    person = id;
  },
  keep(kept: Unsaved): void {
    const { entry, language, ...rest } = kept;
    localStorage.setItem(`${prefix()}${entry}.${language}`, JSON.stringify(rest));
  },
  drop(entry: number, language: string): void {
    localStorage.removeItem(`${prefix()}${entry}.${language}`);
  },
  all(): Unsaved[] {
    return Object.keys(localStorage)
      .filter((key) => key.startsWith(prefix()))
      .map((key) => {
        const [entry = "0", language = ""] = key.slice(prefix().length).split(".");
        const kept = JSON.parse(localStorage.getItem(key) ?? "{}") as Partial<Unsaved>;
        return { entry: Number(entry), language, text: kept.text ?? "", forms: kept.forms, sending: kept.sending };
      });
  },
};
