import { Button, MenuItem, TextField } from "@mui/material";
import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Link } from "react-router";
import { ask, Refused, type Schemas } from "../../api/client";
import { useAddress } from "../../parts/useAddress";
import { ledgerAt } from "../../scope/scope";
import type { Person } from "../../session/useSession";
import { percent, t } from "../../words/words";
import { ChooseAll, ChooseOne, useChoice } from "./Choosing";
import { FoundList, PlaceShown } from "./FoundList";
import { useWhere, WhereFields } from "./Taking";
import { CODE, codeOf, useFound } from "./useCode";
import { undoChange, type Doing } from "./useDoing";

type Found = Schemas["TextWithoutKey"];
const DECISIONS = ["open", "later", "ignored", "taken"] as const;
type Decision = (typeof DECISIONS)[number];

interface Props {
  product: Schemas["ProductReply"];
  overview: Schemas["CodeOverview"];
  scan: number;
  me: Person;
  doing: Doing;
}

/** Texts in the code that people see and that have no key: taken with a key, put off, or ignored for good, one or many at once. */
export function TextsView({ product, overview, scan, me, doing }: Props) {
  const [query, put] = useAddress();
  const decision: Decision = DECISIONS.find((one) => one === query.get("decision")) ?? "open";
  const found = useFound<Found>(
    product.slug,
    "texts",
    `scan=${scan}&decision=${decision}`,
    (last) => `after=${last.position}`,
  );
  const queries = useQueryClient();
  const over = found.error instanceof Refused && found.error.code === "looked-again";
  useEffect(() => {
    // Another look is the last now: the page goes on with that one.
    if (over) void queries.invalidateQueries({ queryKey: [CODE, product.slug, "overview"] });
  }, [over, product.slug, queries]);
  const [where, setWhere] = useWhere(product);
  const [keys, setKeys] = useState<Record<number, string>>({});
  const rows = found.data?.pages.flat() ?? [];
  const choice = useChoice(rows.map((one) => one.position));
  const { now } = choice;
  const choosing = me.coordinator;
  const taking = choosing && decision !== "taken";
  const take = () =>
    doing.carryOut(async () => {
      const texts = rows
        .filter((one) => choice.has(one.position))
        .map((one) => ({ position: one.position, key: keys[one.position] ?? one.proposed }));
      const done = await ask<Schemas["Taken"]>(`${codeOf(product.slug)}/texts/take`, {
        method: "POST",
        json: { scan, ...where, texts },
      });
      choice.clear();
      return {
        words: t("code.tookTexts", { n: texts.length, made: done.made }),
        back: done.change > 0 ? () => undoChange(done.change) : undefined,
      };
    });
  const decide = (to: "later" | "ignored" | "open") =>
    doing.carryOut(async () => {
      const send = (what: string) =>
        ask(`${codeOf(product.slug)}/texts/decision`, { method: "POST", json: { scan, decision: what, texts: now } });
      await send(to);
      choice.clear();
      // What was taken is an entry; it is taken again like any other.
      return {
        words: t(`code.did.${to}`, { n: now.length }),
        back: decision === "taken" ? undefined : () => send(decision),
      };
    });
  return (
    <>
      <div className="does">
        <TextField
          select
          size="small"
          label={t("code.decision")}
          value={decision}
          onChange={(event) => {
            choice.clear();
            put({ decision: event.target.value === "open" ? "" : event.target.value });
          }}
        >
          {DECISIONS.map((one) => (
            <MenuItem key={one} value={one}>
              {t(`code.decided.${one}`, { n: overview[one] })}
            </MenuItem>
          ))}
        </TextField>
        {choosing && rows.length > 0 && (
          <>
            {taking && (
              <>
                <WhereFields product={product} where={where} onWhere={setWhere} />
                <Button
                  variant="contained"
                  size="small"
                  disabled={now.length === 0 || doing.busy || where.table === ""}
                  onClick={() => void take()}
                >
                  {t("code.takeTexts", { n: now.length })}
                </Button>
              </>
            )}
            {(["later", "ignored", "open"] as const)
              .filter((to) => to !== decision && (taking || to === "open"))
              .map((to) => (
                <Button key={to} size="small" disabled={now.length === 0 || doing.busy} onClick={() => void decide(to)}>
                  {t(`code.do.${to}`)}
                </Button>
              ))}
          </>
        )}
      </div>
      <FoundList
        found={found}
        label={t("code.view.texts")}
        heads={[
          choosing ? <ChooseAll key="all" choice={choice} /> : "",
          t("code.text"),
          t("code.key"),
          t("code.where"),
        ]}
        none={t(`code.noTexts.${decision}`)}
      >
        {(all) =>
          all.map((one) => (
            <tr key={one.position}>
              <td className="choose">{choosing && <ChooseOne choice={choice} id={one.position} label={one.text} />}</td>
              <th scope="row" className="said">
                {one.text}
                <small>
                  {t("code.likely", { percent: percent(one.likelihood) })}
                  {one.fresh && <span className="fresh"> · {t("code.fresh")}</span>}
                  {!one.patched && <span> · {t(one.composed ? "code.composed" : "code.byHand")}</span>}
                </small>
              </th>
              <td>
                {one.entry !== undefined && one.key !== undefined ? (
                  <Link to={ledgerAt({ product: product.slug, words: one.key })}>
                    <bdi className="mono">{one.key}</bdi>
                  </Link>
                ) : one.known || !taking ? (
                  <bdi className="mono">{one.proposed}</bdi>
                ) : (
                  <input
                    className="typed mono"
                    aria-label={t("code.keyOf", { text: one.text })}
                    value={keys[one.position] ?? one.proposed}
                    onChange={(event) => setKeys({ ...keys, [one.position]: event.target.value })}
                  />
                )}
                {one.known && one.entry === undefined && <small>{t("code.known")}</small>}
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
