import { Button } from "@mui/material";
import { Link } from "react-router";
import type { Schemas } from "../../api/client";
import { ledgerAt } from "../../scope/scope";
import { t, when } from "../../words/words";
import { FoundList } from "./FoundList";
import { useFound } from "./useCode";

/** Entries by how the code uses them, since when. */
export function EntriesView({
  product,
  how,
}: {
  product: Schemas["ProductReply"];
  how: "unused" | "maybe" | "tests" | "used";
}) {
  const found = useFound<Schemas["CodeEntry"]>(
    product.slug,
    "entries",
    `how=${how}`,
    (last) => `after=${encodeURIComponent(last.key)}&afterId=${last.entry}`,
  );
  return (
    <>
      <div className="does">
        <span className="soft">{t(`code.about.${how}`)}</span>
        {(how === "unused" || how === "used") && (
          <Button size="small" component={Link} to={ledgerAt({ product: product.slug, code: how })}>
            {t("code.inLedger")}
          </Button>
        )}
      </div>
      <FoundList
        found={found}
        label={t(`code.view.${how}`)}
        heads={[t("code.key"), t("code.source"), t("code.table"), t("code.since")]}
        none={t(`code.none.${how}`)}
      >
        {(rows) =>
          rows.map((one) => (
            <tr key={one.entry}>
              <th scope="row">
                <Link to={ledgerAt({ tables: [one.table], words: one.key })}>
                  <bdi className="mono">{one.key}</bdi>
                </Link>
              </th>
              <td>{one.source}</td>
              <td>{one.tableName}</td>
              <td>{when(one.since)}</td>
            </tr>
          ))
        }
      </FoundList>
    </>
  );
}
