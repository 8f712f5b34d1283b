import { expect, it } from "vitest";
import type { Schemas } from "../../api/client";
import { aRow } from "../../test/builders";
import { borrowedFrom } from "./borrowing";

function product(tables: string[], languages: Record<string, string[]>): Schemas["ProductReply"] {
  return {
    id: 1,
    slug: "p",
    name: "P",
    kind: "game",
    version: 0,
    hosts: {},
    tables: tables.map((slug) => ({ slug, name: slug })),
    languages: Object.entries(languages).map(([tag, fallbacks]) => ({
      language: {
        tag,
        name: tag,
        ownName: tag,
        rightToLeft: false,
        script: "Latn",
        plurals: {},
      } as unknown as Schemas["LanguageName"],
      fallbacks,
      hidden: false,
      prefix: "",
      shownAs: tag,
    })),
  };
}

const row = aRow({ table: "voices", shape: "asset", files: { en: 1, fi: 2 } });

it.each<[string, Record<string, string[]>, string, string | null]>([
  ["the first it borrows from that has one", { et: ["sv", "fi", "en"] }, "et", "fi"],
  ["the source where none of them has", { et: ["sv"] }, "et", "en"],
  ["nothing where the product has no such language", { de: [] }, "et", null],
])("people get %s", (_, languages, language, expected) => {
  expect(borrowedFrom([product(["voices"], languages)], row, language, "en")).toBe(expected);
});

it("asks only products of the table, and tells nothing where nothing is there", () => {
  expect(borrowedFrom([product(["other"], { et: [] })], row, "et", "en")).toBeNull();
  expect(borrowedFrom([product(["voices"], { et: [] })], aRow({ table: "voices", files: {} }), "et", "en")).toBeNull();
});
