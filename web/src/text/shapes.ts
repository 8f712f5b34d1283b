import type { Schemas } from "../api/client";
import { t } from "../words/words";

/** The forms of a text by name; a plain text has the form "other" alone. */
export type Forms = Record<string, string>;

/** The one form of a plain text. */
export const MAIN = "other";

/** A form that can be edited, with what stands above its field. */
export interface FormField {
  form: string;
  /** What the form is for, empty for a plain text. */
  label: string;
}

/** What lists show of a text of several forms: "other", else its last form. */
export function mainForm(forms: Forms): string {
  return forms[MAIN] ?? Object.values(forms).at(-1) ?? "";
}

/**
 * The fields for editing an entry's text in a language.
 *
 * @param source - the forms of the source, which say how many states there are
 */
export function fieldsOf(shape: string, language: Schemas["LanguageName"], source: Forms | undefined): FormField[] {
  switch (shape) {
    case "plural":
      return language.plurals.map(({ category, examples }) => ({
        form: category,
        label: examples ? t("form.plural", { category, examples }) : category,
      }));
    case "states":
      return Object.keys(source ?? { "0": "" })
        .sort((a, b) => Number(a) - Number(b))
        .map((state) => ({ form: state, label: t("form.state", { state, source: source?.[state] ?? "" }) }));
    default:
      return [{ form: MAIN, label: "" }];
  }
}

/** The forms of a cell's or source's text, none for no text. */
export function formsOf(text: string | undefined, forms: Forms | undefined): Forms {
  return forms ?? (text === undefined || text === "" ? {} : { [MAIN]: text });
}

const CLDR_ORDER = ["zero", "one", "two", "few", "many", "other"];

/** The forms as people read them: plural categories in the order of CLDR, states by number. */
export function inOrder(forms: Forms): [string, string][] {
  const place = (form: string) => (CLDR_ORDER.includes(form) ? CLDR_ORDER.indexOf(form) : Number(form) || 0);
  return Object.entries(forms).sort(([a], [b]) => place(a) - place(b));
}

/** Several forms in one line for lists: "ticket / tickets". */
export function inOneLine(text: string | undefined, forms: Forms | undefined): string {
  if (!forms) return text ?? "";
  return inOrder(forms)
    .filter(([form]) => form !== "file")
    .map(([, said]) => said)
    .join(" / ");
}

/** Whether two texts have the same forms. */
export function sameForms(a: Forms, b: Forms): boolean {
  const names = new Set([...Object.keys(a), ...Object.keys(b)]);
  return [...names].every((name) => (a[name] ?? "") === (b[name] ?? ""));
}
