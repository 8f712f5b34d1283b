const PREFIX = "mellow.unsaved.";

/** Texts that the server does not have yet, kept in the browser so that a reload or a stopped server loses none. */
export const unsaved = {
  keep(entry: number, language: string, text: string): void {
    localStorage.setItem(`${PREFIX}${entry}.${language}`, text);
  },
  drop(entry: number, language: string): void {
    localStorage.removeItem(`${PREFIX}${entry}.${language}`);
  },
  all(): { entry: number; language: string; text: string }[] {
    return Object.keys(localStorage)
      .filter((key) => key.startsWith(PREFIX))
      .map((key) => {
        const [entry = "0", language = ""] = key.slice(PREFIX.length).split(".");
        return { entry: Number(entry), language, text: localStorage.getItem(key) ?? "" };
      });
  },
};
