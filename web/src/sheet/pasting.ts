import type { Schemas } from "../api/client";
import { readForms } from "./clipboard";
import { formsShown } from "./cellShown";
import type { Entries } from "./entries";
import type { RowStore } from "./rowStore";
import type { Put } from "./selection";
import { fieldsOf, formsOf, inOneLine, mainForm, MAIN, sameForms, type Forms } from "../text/shapes";

/** A text that goes into a cell. */
export interface Replacing {
  entry: number;
  key: string;
  language: Schemas["LanguageName"];
  version: number;
  /** What stands there in one line, empty for nothing. */
  before: string;
  after: string;
  forms: Forms;
  plain: boolean;
  /** Whether a settled text stands there, beside which it becomes an offer. */
  settled: boolean;
}

/** What putting texts into cells would do. */
export interface Plan {
  changes: Replacing[];
  same: number;
  empty: number;
  notHere: number;
  wrongForms: number;
  beyond: number;
}

/** Whether an entry's text in a language can be changed at all. */
export function takesText(row: Schemas["RowReply"], tag: string, keptBy: Map<string, Set<string>>): boolean {
  return row.translatable && !row.removed && (keptBy.get(row.table)?.has(tag) ?? true);
}

/** Decides what each text would do; all rows have to be loaded. Changes nothing. */
export function planOf(
  puts: Put[],
  beyond: number,
  entries: Entries,
  store: RowStore,
  languages: Schemas["LanguageReply"][],
  keptBy: Map<string, Set<string>>,
): Plan {
  const plan: Plan = { changes: [], same: 0, empty: 0, notHere: 0, wrongForms: 0, beyond };
  for (const { place, text } of puts) {
    const entry = entries.ids[place.row] ?? 0;
    const language = languages[place.column]?.language;
    const row = store.row(entry);
    if (text === "") {
      plan.empty++;
      continue;
    }
    if (!row || !language || row.shape === "asset" || !takesText(row, language.tag, keptBy)) {
      plan.notHere++;
      continue;
    }
    const plain = row.shape === "plain";
    const known = fieldsOf(row.shape, language, row.sourceForms).map((field) => field.form);
    const forms = plain ? { [MAIN]: text } : readForms(text, known);
    if (!forms) {
      plan.wrongForms++;
      continue;
    }
    const cell = store.cell(entry, language.tag);
    const shown = formsShown(cell, store.pending(entry, language.tag));
    if (sameForms(forms, formsOf(cell?.text, cell?.forms))) {
      plan.same++;
      continue;
    }
    plan.changes.push({
      entry,
      key: row.key,
      language,
      version: cell?.version ?? 0,
      before: inOneLine(mainForm(shown), shown),
      after: plain ? text : inOneLine(mainForm(forms), forms),
      forms,
      plain,
      settled: cell?.settled ?? false,
    });
  }
  return plan;
}

/** A planned text as the server takes it. */
export function toSend({ entry, language, version, forms, plain }: Replacing): Schemas["One"] {
  return { entry, language: language.tag, version, ...(plain ? { text: forms[MAIN] } : { forms }) };
}
