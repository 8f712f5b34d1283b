import { Link } from "react-router";
import type { Schemas } from "../../api/client";
import { ledgerAt } from "../../scope/scope";
import { listed, t } from "../../words/words";
import { FoundList, PlaceShown } from "./FoundList";
import { useFound } from "./useCode";

/** Places where the code says something else than the source, or puts other values in than the text has places for. */
export function MisfitsView({ product }: { product: Schemas["ProductReply"] }) {
  const differing = useFound<Schemas["DifferingText"]>(product.slug, "differing", "", () => "");
  const misfits = useFound<Schemas["MisfitValues"]>(product.slug, "misfits", "", () => "");
  return (
    <>
      <h2>{t("code.differing")}</h2>
      <FoundList
        found={{ ...differing, hasNextPage: false }}
        label={t("code.differing")}
        heads={[t("code.key"), t("code.source"), t("code.says"), t("code.where")]}
        none={t("code.none.differing")}
      >
        {(rows) =>
          rows.map((one) => (
            <tr key={`${one.entry} ${one.path} ${one.line}`}>
              <Key table={one.table} name={one.key} />
              <td>{one.source}</td>
              <td>{one.said}</td>
              <td>
                <PlaceShown at={one} />
              </td>
            </tr>
          ))
        }
      </FoundList>
      <h2>{t("code.misfits")}</h2>
      <FoundList
        found={{ ...misfits, hasNextPage: false }}
        label={t("code.misfits")}
        heads={[t("code.key"), t("code.source"), t("code.fits"), t("code.where")]}
        none={t("code.none.misfits")}
      >
        {(rows) =>
          rows.map((one) => (
            <tr key={`${one.entry} ${one.path} ${one.line}`}>
              <Key table={one.table} name={one.key} />
              <td>{one.source}</td>
              <td>
                {one.missing.length > 0 && <div>{t("code.lacks", { names: listed(one.missing) })}</div>}
                {one.needless.length > 0 && <div>{neededLess(one.needless)}</div>}
              </td>
              <td>
                <PlaceShown at={one} />
              </td>
            </tr>
          ))
        }
      </FoundList>
    </>
  );
}

/** Values without names are told by how many. */
function neededLess(needless: string[]): string {
  const number = /^\d+$/.test(needless[0] ?? "") ? Number(needless[0]) : 0;
  return number > 0 ? t("code.tooMany", { n: number }) : t("code.needless", { names: listed(needless) });
}

function Key({ table, name }: { table: string; name: string }) {
  return (
    <th scope="row">
      <Link to={ledgerAt({ tables: [table], words: name })}>
        <bdi className="mono">{name}</bdi>
      </Link>
    </th>
  );
}
