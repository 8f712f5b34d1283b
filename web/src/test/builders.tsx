import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { render } from "@testing-library/react";
import type { ReactElement } from "react";
import { MemoryRouter } from "react-router";
import type { Schemas } from "../api/client";

/** A language with the plural forms of English. */
export function aName(tag: string, name: string): Schemas["LanguageName"] {
  const plurals = [
    { category: "one", examples: "1" },
    { category: "other", examples: "0, 2" },
  ];
  return { tag, englishName: name, ownName: name, rightToLeft: tag === "ar", script: "Latn", plurals };
}

/** A language that a table is kept in, with ten settled entries. */
export function aLanguage(
  tag: string,
  name: string,
  part: Partial<Schemas["LanguageReply"]> = {},
): Schemas["LanguageReply"] {
  return {
    language: aName(tag, name),
    settlesOwn: false,
    settlesDrafts: false,
    states: { offered: 0, returned: 0, stale: 0, settled: 10, pencilled: 0, untranslated: 0 },
    words: { offered: 0, returned: 0, stale: 0, settled: 30, pencilled: 0, untranslated: 0 },
    ...part,
  };
}

/** A table of ten entries in English, German and Finnish. */
export function aTable(part: Partial<Schemas["TableReply"]> = {}): Schemas["TableReply"] {
  return {
    id: 1,
    slug: "ramp-panel",
    name: "Ramp panel",
    entries: 10,
    words: 30,
    source: aName("en", "English"),
    languages: [aLanguage("de", "German"), aLanguage("fi", "Finnish")],
    version: 0,
    ...part,
  };
}

/** An entry without texts. */
export function aRow(part: Partial<Schemas["RowReply"]> = {}): Schemas["RowReply"] {
  return {
    id: 7,
    table: "ramp-panel",
    shape: "plain",
    maxLines: 0,
    maxWidth: 0,
    tags: [],
    translatable: true,
    version: 0,
    key: "ramp.up",
    context: "",
    source: "Ramp up",
    section: "",
    maxLength: 0,
    note: "",
    reference: "",
    sourceRevision: 1,
    meaningRevision: 1,
    removed: false,
    openQuestions: 0,
    scenes: 0,
    cells: [],
    ...part,
  };
}

/** A file of a set with ten texts. */
export function aFile(language: string, part: Partial<Schemas["FileReply"]> = {}): Schemas["FileReply"] {
  return {
    path: `l/${language}.yml`,
    language,
    source: false,
    leftOut: false,
    facts: {
      format: "yaml",
      charset: "UTF-8",
      language,
      texts: 10,
      missing: 0,
      unknown: 0,
      problems: [],
      problemCount: 0,
    },
    ...part,
  };
}

/** Someone signed in; a contributor to German unless said otherwise. */
export function aPerson(part: Partial<Schemas["PersonReply"]> = {}): Schemas["PersonReply"] {
  return { id: 5, signIn: "lina", name: "Lina Korhola", coordinator: false, levels: { de: "contributor" }, ...part };
}

/** Renders with everything around it that the application has. */
export function show(element: ReactElement, address = "/") {
  const queries = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  return render(
    <QueryClientProvider client={queries}>
      <MemoryRouter initialEntries={[address]}>{element}</MemoryRouter>
    </QueryClientProvider>,
  );
}
