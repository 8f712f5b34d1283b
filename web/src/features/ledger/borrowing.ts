import type { Schemas } from "../../api/client";
import type { Row } from "../../sheet/rowStore";

/**
 * The language whose file people get where a language has none: the first of those it borrows from, in a product of the table, that has one; else that of the
 * source. Null where no product shows the table in the language, or nothing is there.
 */
export function borrowedFrom(
  products: Schemas["ProductReply"][],
  row: Row,
  language: string,
  source: string | undefined,
): string | null {
  for (const product of products) {
    if (!product.tables.some((table) => table.slug === row.table)) continue;
    const here = product.languages.find((one) => one.language.tag === language);
    if (!here) continue;
    const from = [...here.fallbacks, source ?? ""].find((tag) => row.files?.[tag] !== undefined);
    if (from !== undefined) return from;
  }
  return null;
}
