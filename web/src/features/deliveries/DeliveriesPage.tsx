import { Alert, Button } from "@mui/material";
import { Link } from "react-router";
import { sentenceOf } from "../../api/client";
import { Frame } from "../../desk/Frame";
import { count, moment, when, t } from "../../words/words";
import { useDeliveries, useFollowing } from "./useDeliveries";
import "../../parts/pages.css";
import "../../parts/listed.css";
import "./deliveries.css";

/** Every product with what waits to be delivered. */
export function DeliveriesPage() {
  const all = useDeliveries();
  useFollowing();
  return (
    <Frame title={t("deliveries.title")}>
      <div className="settings">
        {all.error && (
          <Alert severity="error" action={<Button onClick={() => void all.refetch()}>{t("retry")}</Button>}>
            {sentenceOf(all.error)}
          </Alert>
        )}
        {all.data?.length === 0 && (
          <p className="soft">
            {t("deliveries.noProduct")} <Link to="/products">{t("tabs.products")}</Link>
          </p>
        )}
        {all.data && all.data.length > 0 && (
          <table className="listed">
            <thead>
              <tr>
                <th scope="col">{t("products.product")}</th>
                <th scope="col">{t("deliveries.waits")}</th>
                <th scope="col">{t("deliveries.last")}</th>
                <th scope="col">{t("deliveries.next")}</th>
                <td />
              </tr>
            </thead>
            <tbody>
              {all.data.map((one) => (
                <tr key={one.slug}>
                  <th scope="row">
                    <Link to={`/deliveries/${one.slug}`}>{one.name}</Link>
                  </th>
                  <td>
                    {one.recipes === 0
                      ? t("deliveries.noRecipe")
                      : one.last
                        ? t("deliveries.changedSince", { n: one.changed, number: count(one.last.number) })
                        : t("deliveries.never")}
                    {one.held > 0 && <span className="held"> {t("deliveries.heldLanguages", { n: one.held })}</span>}
                  </td>
                  <td>
                    {one.last ? t("deliveries.numberAt", { number: one.last.number, at: when(one.last.at) }) : "–"}
                  </td>
                  <td>{one.nextAt ? moment(one.nextAt) : "–"}</td>
                  <td className="order">
                    <Link to={`/products/${one.slug}`}>{t("deliveries.product")}</Link>
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
      </div>
    </Frame>
  );
}
