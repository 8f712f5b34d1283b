import { Alert, Button } from "@mui/material";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { ask, sentenceOf, type Schemas } from "../../api/client";
import { Frame } from "../../desk/Frame";
import { listed, t } from "../../words/words";
import { writeScope, EVERYTHING } from "../../scope/scope";
import { useProducts, useTables } from "../../scope/useTables";
import type { Person } from "../../session/useSession";
import { NewTableDialog } from "./NewTableDialog";
import { ProductDialog } from "./ProductDialog";
import { RemovedTables } from "./TablePage";
import "../../parts/pages.css";
import "../../parts/listed.css";

/** Which products there are, which tables they use, and in which languages. */
export function ProductsPage({ me }: { me: Person }) {
  const products = useProducts();
  const tables = useTables();
  const queries = useQueryClient();
  const [editing, setEditing] = useState<Schemas["ProductReply"] | "new" | null>(null);
  const [making, setMaking] = useState(false);
  const [made, setMade] = useState<Schemas["ProductReply"] | null>(null);
  const removed = useQuery({
    queryKey: ["removed-products"],
    queryFn: ({ signal }) => ask<Schemas["ProductReply"][]>("/api/products/removed", { signal }),
  });
  const again = () =>
    Promise.all([
      queries.invalidateQueries({ queryKey: ["products"] }),
      queries.invalidateQueries({ queryKey: ["removed-products"] }),
    ]);
  const failure = products.error ?? tables.error;
  return (
    <Frame title={t("products.title")}>
      <div className="settings">
        {failure && <Alert severity="error">{sentenceOf(failure)}</Alert>}
        {made && (
          <Alert
            severity="success"
            onClose={() => setMade(null)}
            action={
              <Button component={Link} to={`/board?${writeScope({ ...EVERYTHING, product: made.slug })}`}>
                {t("products.seeBoard")}
              </Button>
            }
          >
            {t("products.made", { product: made.name })}
          </Alert>
        )}
        {products.data?.length === 0 && <p className="soft">{t("products.none")}</p>}
        {products.data && products.data.length > 0 && (
          <table className="listed">
            <thead>
              <tr>
                <th scope="col">{t("products.product")}</th>
                <th scope="col">{t("products.kind")}</th>
                <th scope="col">{t("products.tables")}</th>
                <th scope="col">{t("products.languages")}</th>
                <td />
              </tr>
            </thead>
            <tbody>
              {products.data.map((product) => (
                <tr key={product.slug}>
                  <th scope="row">
                    <Link to={`/products/${product.slug}`}>{product.name}</Link>
                  </th>
                  <td>{t(`kind.${product.kind as "app"}`)}</td>
                  <td>{listed(product.tables.map((one) => one.name))}</td>
                  <td>
                    {product.languages
                      .map((one) =>
                        one.selector === undefined ? one.language.tag : `${one.selector} ${one.language.tag}`,
                      )
                      .join(", ")}
                  </td>
                  <td className="order">
                    {me.coordinator && (
                      <Button size="small" onClick={() => setEditing(product)}>
                        {t("products.change")}
                      </Button>
                    )}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
        {me.coordinator && (
          <div className="actions">
            <Button variant="contained" onClick={() => setEditing("new")}>
              {t("products.new")}
            </Button>
            <Button variant="outlined" onClick={() => setMaking(true)}>
              {t("products.newTable")}
            </Button>
          </div>
        )}
        {removed.data && removed.data.length > 0 && (
          <section>
            <h2>{t("products.removed")}</h2>
            <table className="listed">
              <tbody>
                {removed.data.map((one) => (
                  <tr key={one.id}>
                    <th scope="row">{one.name}</th>
                    <td className="order">
                      <Button
                        size="small"
                        disabled={!me.coordinator}
                        onClick={() =>
                          void ask(`/api/products/removed/${one.id}/put-back`, { method: "POST" }).then(again)
                        }
                      >
                        {t("settings.putBack")}
                      </Button>
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          </section>
        )}
        <RemovedTables editable={me.coordinator} />
      </div>
      {editing && tables.data && (
        <ProductDialog
          product={editing === "new" ? null : editing}
          tables={tables.data}
          onDone={(kept) => {
            if (editing === "new" && kept) setMade(kept);
            setEditing(null);
            void again();
          }}
          onClose={() => setEditing(null)}
        />
      )}
      {making && <NewTableDialog onClose={() => setMaking(false)} />}
    </Frame>
  );
}
