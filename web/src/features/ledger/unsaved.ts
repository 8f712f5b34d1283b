const PREFIX = "mellow.unsaved.";

/** A text that the server does not have yet. */
export interface Unsaved {
  entry: number;
  language: string;
  text: string;
  /** All forms of a text that is not plain. */
  forms?: Record<string, string>;
}

/** Texts that the server does not have yet, kept in the browser so that a reload or a stopped server loses none. */
export const unsaved = {
  keep(entry: number, language: string, text: string, forms?: Record<string, string>): void {
    localStorage.setItem(`${PREFIX}${entry}.${language}`, JSON.stringify({ text, forms }));
  },
  drop(entry: number, language: string): void {
    localStorage.removeItem(`${PREFIX}${entry}.${language}`);
  },
  all(): Unsaved[] {
    return Object.keys(localStorage)
      .filter((key) => key.startsWith(PREFIX))
      .map((key) => {
        const [entry = "0", language = ""] = key.slice(PREFIX.length).split(".");
        const kept = JSON.parse(localStorage.getItem(key) ?? "{}") as Partial<Unsaved>;
        return { entry: Number(entry), language, text: kept.text ?? "", forms: kept.forms };
      });
  },
};
