import { AssetInLine } from "../../asset/AssetShown";
import { useProducts, useTables } from "../../scope/useTables";
import type { Row } from "../../sheet/rowStore";
import { MAIN } from "../../text/shapes";
import { nameOfTag, t } from "../../words/words";
import { borrowedFrom } from "./borrowing";

/** The picture or sound that people get in a language that has none of its own, as the products of the table borrow. */
export function BorrowedAsset({ row, language }: { row: Row; language: string }) {
  const products = useProducts();
  const tables = useTables();
  const source = tables.data?.find((table) => table.slug === row.table)?.source.tag;
  const from = borrowedFrom(products.data ?? [], row, language, source);
  const file = from === null ? undefined : row.files?.[from];
  if (from === null || file === undefined) return null;
  const kind = row.assets?.[file]?.kind ?? endingOf(row.source);
  return (
    <span className="borrowed">
      {" · "}
      <span>{t("asset.borrowed", { language: nameOfTag(from) })}</span>{" "}
      <AssetInLine forms={{ [MAIN]: `${from}.${kind}`, file: String(file) }} facts={row.assets} nameless />
    </span>
  );
}

function endingOf(name: string): string {
  return name.slice(name.lastIndexOf(".") + 1);
}
