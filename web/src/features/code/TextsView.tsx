import { Button, Checkbox, MenuItem, TextField } from "@mui/material";
import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Link } from "react-router";
import { ask, Refused, type Schemas } from "../../api/client";
import { useAddress } from "../../parts/useAddress";
import { ledgerAt } from "../../scope/scope";
import type { Person } from "../../session/useSession";
import { percent, t } from "../../words/words";
import { DoneNote } from "./DoneNote";
import { FoundList, PlaceShown } from "./FoundList";
import { useWhere, WhereFields } from "./Taking";
import { CODE, chosenOf, codeOf, toggled, useFound } from "./useCode";
import { undoChange, useDoing } from "./useDoing";

type Found = Schemas["TextWithoutKey"];
const DECISIONS = ["open", "later", "ignored", "taken"] as const;
type Decision = (typeof DECISIONS)[number];

interface Props {
  product: Schemas["ProductReply"];
  overview: Schemas["CodeOverview"];
  scan: number;
  me: Person;
}

/** Texts in the code that people see and that have no key: taken with a key, put off, or ignored for good, one or many at once. */
export function TextsView({ product, overview, scan, me }: Props) {
  const [query, put] = useAddress();
  const decision: Decision = DECISIONS.find((one) => one === query.get("decision")) ?? "open";
  const found = useFound<Found>(
    product.slug,
    "texts",
    `scan=${scan}&decision=${decision}`,
    (last) => `after=${last.position}`,
  );
  const doing = useDoing(product.slug);
  const queries = useQueryClient();
  const over = found.error instanceof Refused && found.error.code === "looked-again";
  useEffect(() => {
    // Another look is the last now: the page goes on with that one.
    if (over) void queries.invalidateQueries({ queryKey: [CODE, product.slug, "overview"] });
  }, [over, product.slug, queries]);
  const [where, setWhere] = useWhere(product);
  const [chosen, setChosen] = useState<ReadonlySet<number>>(new Set());
  const [last, setLast] = useState<number | null>(null);
  const [keys, setKeys] = useState<Record<number, string>>({});
  const rows = found.data?.pages.flat() ?? [];
  const shown = rows.map((one) => one.position);
  const now = chosenOf(chosen, shown);
  const choosing = me.coordinator && decision !== "taken";
  const take = () =>
    doing.carryOut(async () => {
      const texts = rows
        .filter((one) => chosen.has(one.position))
        .map((one) => ({ position: one.position, key: keys[one.position] ?? one.proposed }));
      const done = await ask<Schemas["Taken"]>(`${codeOf(product.slug)}/texts/take`, {
        method: "POST",
        json: { scan, ...where, texts },
      });
      setChosen(new Set());
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
      setChosen(new Set());
      return { words: t(`code.did.${to}`, { n: now.length }), back: () => send(decision) };
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
            setChosen(new Set());
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
            <WhereFields product={product} where={where} onWhere={setWhere} />
            <Button
              variant="contained"
              size="small"
              disabled={now.length === 0 || doing.busy || where.table === ""}
              onClick={() => void take()}
            >
              {t("code.takeTexts", { n: now.length })}
            </Button>
            {(["later", "ignored", "open"] as const)
              .filter((to) => to !== decision)
              .map((to) => (
                <Button key={to} size="small" disabled={now.length === 0 || doing.busy} onClick={() => void decide(to)}>
                  {t(`code.do.${to}`)}
                </Button>
              ))}
          </>
        )}
      </div>
      <DoneNote doing={doing} />
      <FoundList
        found={found}
        label={t("code.view.texts")}
        heads={[
          choosing ? (
            <Checkbox
              key="all"
              size="small"
              slotProps={{ input: { "aria-label": t("code.chooseAll") } }}
              checked={now.length > 0 && now.length === shown.length}
              indeterminate={now.length > 0 && now.length < shown.length}
              onChange={(event) => setChosen(new Set(event.target.checked ? shown : []))}
            />
          ) : (
            ""
          ),
          t("code.text"),
          t("code.key"),
          t("code.where"),
        ]}
        none={t(`code.noTexts.${decision}`)}
      >
        {(all) =>
          all.map((one) => (
            <tr key={one.position}>
              <td className="choose">
                {choosing && (
                  <Checkbox
                    size="small"
                    slotProps={{ input: { "aria-label": one.text } }}
                    checked={chosen.has(one.position)}
                    onChange={(event) => {
                      const shift = (event.nativeEvent as MouseEvent).shiftKey;
                      setChosen(toggled(chosen, shown, one.position, shift ? last : null));
                      setLast(one.position);
                    }}
                  />
                )}
              </td>
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
                ) : one.known || !choosing ? (
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
                <PlaceShown {...one} />
              </td>
            </tr>
          ))
        }
      </FoundList>
    </>
  );
}
