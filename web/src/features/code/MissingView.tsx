import { Button } from "@mui/material";
import { useState } from "react";
import { ask, type Schemas } from "../../api/client";
import type { Person } from "../../session/useSession";
import { t } from "../../words/words";
import { ChooseAll, ChooseOne, useChoice } from "./Choosing";
import { FoundList, PlaceShown } from "./FoundList";
import { useWhere, WhereFields } from "./Taking";
import { codeOf, useFound, wordsFor } from "./useCode";
import { undoChange, type Doing } from "./useDoing";

type Missing = Schemas["MissingKey"];

/** One key may be missing in several contexts. */
const idOf = (one: Missing) => JSON.stringify([one.key, one.context]);
const nameOf = (one: Missing) => (one.context ? `${one.key} · ${one.context}` : one.key);

/** Keys that the code uses and no table has: each can become an entry, with the text that the code has or one typed here. */
export function MissingView({
  product,
  scan,
  me,
  doing,
}: {
  product: Schemas["ProductReply"];
  scan: number;
  me: Person;
  doing: Doing;
}) {
  const found = useFound<Missing>(
    product.slug,
    "missing",
    "",
    (last) => `after=${encodeURIComponent(last.key)}&afterContext=${encodeURIComponent(last.context)}`,
  );
  const [where, setWhere] = useWhere(product);
  const [sources, setSources] = useState<Record<string, string>>({});
  const rows = found.data?.pages.flat() ?? [];
  const choice = useChoice(rows.map(idOf));
  const { now } = choice;
  const sourceOf = (one: Missing) => sources[idOf(one)] ?? one.said ?? wordsFor(one.key);
  const take = () =>
    doing.carryOut(async () => {
      const keys = rows
        .filter((one) => choice.has(idOf(one)))
        .map((one) => ({ name: one.key, context: one.context, key: one.proposed, source: sourceOf(one) }));
      const done = await ask<Schemas["Taken"]>(`${codeOf(product.slug)}/missing/take`, {
        method: "POST",
        json: { scan, ...where, keys },
      });
      choice.clear();
      return { words: t("code.tookKeys", { n: done.made }), back: () => undoChange(done.change) };
    });
  return (
    <>
      <div className="does">
        {me.coordinator && rows.length > 0 ? (
          <>
            <WhereFields product={product} where={where} onWhere={setWhere} />
            <Button
              variant="contained"
              size="small"
              disabled={now.length === 0 || doing.busy || where.table === ""}
              onClick={() => void take()}
            >
              {t("code.takeKeys", { n: now.length })}
            </Button>
          </>
        ) : (
          <span className="soft">{t("code.about.missing")}</span>
        )}
      </div>
      <FoundList
        found={found}
        label={t("code.view.missing")}
        heads={[
          me.coordinator ? <ChooseAll key="all" choice={choice} /> : "",
          t("code.key"),
          t("code.source"),
          t("code.where"),
        ]}
        none={t("code.none.missing")}
      >
        {(all) =>
          all.map((one) => (
            <tr key={idOf(one)}>
              <td className="choose">
                {me.coordinator && <ChooseOne choice={choice} id={idOf(one)} label={nameOf(one)} />}
              </td>
              <th scope="row">
                <bdi className="mono">{one.proposed}</bdi>
                {one.context && <span className="soft"> · {one.context}</span>}
                {one.fresh && <small className="fresh">{t("code.fresh")}</small>}
                {one.note && <small>{one.note}</small>}
              </th>
              <td>
                {me.coordinator ? (
                  <input
                    className="typed"
                    aria-label={t("code.sourceOf", { key: nameOf(one) })}
                    value={sourceOf(one)}
                    onChange={(event) => setSources({ ...sources, [idOf(one)]: event.target.value })}
                  />
                ) : (
                  (one.said ?? "")
                )}
                {one.said === undefined && <small>{t("code.guessed")}</small>}
              </td>
              <td>
                <PlaceShown at={one} />
                {one.places > 1 && <small>{t("code.morePlaces", { n: one.places - 1 })}</small>}
              </td>
            </tr>
          ))
        }
      </FoundList>
    </>
  );
}
