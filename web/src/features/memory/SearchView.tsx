import { Alert, Button, Checkbox, MenuItem, Snackbar, TextField } from "@mui/material";
import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { ask, sentenceOf, type Schemas } from "../../api/client";
import { useAddress } from "../../parts/useAddress";
import { useSettled } from "../../parts/useSettled";
import { ledgerAt } from "../../scope/scope";
import { languagesOf } from "../../scope/scopeTables";
import { useTables } from "../../scope/useTables";
import type { Person } from "../../session/useSession";
import { TextShown } from "../../text/TextShown";
import { count, languageName, percent, t } from "../../words/words";
import { UnitDialog } from "./UnitDialog";

type Unit = Schemas["UnitReply"];

const SIDES = ["SOURCE", "TEXT", "SIMILAR"] as const;

/** Looks through the memory by words of either side, or for similar sources; units of shelves are mended and removed here, texts of the ledger there. */
export function SearchView({ me }: { me: Person }) {
  const queries = useQueryClient();
  const tables = useTables();
  const [query, putAddress] = useAddress();
  const sources = [...new Map((tables.data ?? []).map((table) => [table.source.tag, table.source])).values()];
  const targets = languagesOf(tables.data ?? []).map((kept) => kept.language);
  const words = query.get("words") ?? "";
  const from = query.get("from") ?? sources[0]?.tag ?? "";
  const to = query.get("to") ?? targets[0]?.tag ?? "";
  const side = SIDES.find((one) => one === query.get("side")) ?? "SOURCE";
  const wanted = useSettled(words.trim());
  const [chosen, setChosen] = useState<ReadonlySet<number>>(new Set());
  const [open, setOpen] = useState<Unit | null>(null);
  const [said, setSaid] = useState<{ words: string; back?: number[] } | null>(null);
  const put = (part: Record<string, string>) => {
    setChosen(new Set());
    putAddress(part);
  };
  const found = useQuery({
    queryKey: ["memory", "units", from, to, side, wanted],
    queryFn: ({ signal }) =>
      ask<Schemas["UnitsFound"]>(
        `/api/memory/units?${String(new URLSearchParams({ from, to, side, words: wanted }))}`,
        {
          signal,
        },
      ),
    enabled: wanted !== "" && from !== "" && to !== "",
    placeholderData: keepPreviousData,
    retry: false,
  });
  const units = wanted === "" ? [] : (found.data?.units ?? []);
  const again = () => queries.invalidateQueries({ queryKey: ["memory"] });
  const remove = (ids: number[], away: boolean) =>
    void ask<Schemas["UnitsRemoved"]>("/api/memory/units/removal", { method: "POST", json: { units: ids, away } })
      .then((done) => {
        setChosen(new Set());
        setSaid(
          away
            ? { words: t("memory.removed", { n: done.units }), back: ids }
            : { words: t("memory.putBack", { n: done.units }) },
        );
        return again();
      })
      .catch((failure: unknown) => setSaid({ words: sentenceOf(failure) }));
  const target = targets.find(({ tag }) => tag === to);
  return (
    <>
      <div className="asks">
        <TextField
          size="small"
          autoFocus
          label={t("memory.words")}
          value={words}
          onChange={(event) => put({ words: event.target.value })}
        />
        <TextField
          select
          size="small"
          label={t("memory.side")}
          value={side}
          onChange={(event) => put({ side: event.target.value })}
        >
          {SIDES.map((one) => (
            <MenuItem key={one} value={one}>
              {t(`memory.side.${one}`)}
            </MenuItem>
          ))}
        </TextField>
        <TextField
          select
          size="small"
          label={t("memory.from")}
          value={from}
          onChange={(event) => put({ from: event.target.value })}
        >
          {sources.map((one) => (
            <MenuItem key={one.tag} value={one.tag}>
              {languageName(one)}
            </MenuItem>
          ))}
        </TextField>
        <TextField
          select
          size="small"
          label={t("memory.to")}
          value={to}
          onChange={(event) => put({ to: event.target.value })}
        >
          {targets.map((one) => (
            <MenuItem key={one.tag} value={one.tag}>
              {languageName(one)}
            </MenuItem>
          ))}
        </TextField>
        {chosen.size > 0 && (
          <Button color="error" onClick={() => remove([...chosen], true)}>
            {t("memory.removeChosen", { n: chosen.size })}
          </Button>
        )}
      </div>
      {found.error && (
        <Alert severity="error" action={<Button onClick={() => void found.refetch()}>{t("retry")}</Button>}>
          {sentenceOf(found.error)}
        </Alert>
      )}
      <p role="status" className="soft">
        {wanted === ""
          ? t("memory.ask")
          : found.data
            ? found.data.more
              ? t("memory.more", { n: units.length })
              : t("memory.found", { n: units.length })
            : ""}
      </p>
      {units.length > 0 && (
        <div className="units" role="region" aria-label={t("memory.units")} tabIndex={0}>
          <table>
            <thead>
              <tr>
                {me.coordinator && (
                  <th scope="col">
                    <span className="visually-hidden">{t("memory.choose")}</span>
                  </th>
                )}
                {side === "SIMILAR" && <th scope="col">{t("memory.alike")}</th>}
                <th scope="col">{t("memory.side.SOURCE")}</th>
                <th scope="col">{t("memory.side.TEXT")}</th>
                <th scope="col">{t("memory.where")}</th>
                <th scope="col">{t("memory.used")}</th>
              </tr>
            </thead>
            <tbody>
              {units.map((unit) => (
                <tr key={`${unit.entry} ${unit.unit}`}>
                  {me.coordinator && (
                    <td>
                      {unit.unit > 0 && (
                        <Checkbox
                          size="small"
                          checked={chosen.has(unit.unit)}
                          slotProps={{ input: { "aria-label": t("memory.chooseThis", { text: unit.text }) } }}
                          onChange={() => {
                            const next = new Set(chosen);
                            if (!next.delete(unit.unit)) next.add(unit.unit);
                            setChosen(next);
                          }}
                        />
                      )}
                    </td>
                  )}
                  {side === "SIMILAR" && <td>{percent(unit.percent)}</td>}
                  <td lang={from}>
                    <TextShown text={unit.source} />
                  </td>
                  <td lang={to} dir={target?.rightToLeft ? "rtl" : "ltr"}>
                    <TextShown text={unit.text} />
                  </td>
                  <td>
                    {unit.entry > 0 ? (
                      <Link to={`${ledgerAt({ tables: [unit.slug], languages: [to] })}&entry=${unit.entry}`}>
                        {unit.shelf} · <code>{unit.place}</code>
                      </Link>
                    ) : (
                      <>
                        {unit.shelf}
                        {unit.place && (
                          <>
                            {" "}
                            · <code>{unit.place}</code>
                          </>
                        )}
                        {me.coordinator && (
                          <Button size="small" onClick={() => setOpen(unit)}>
                            {t("memory.mend")}
                          </Button>
                        )}
                      </>
                    )}
                    <small className="soft">{[unit.person, unit.made].filter((one) => one !== "").join(" · ")}</small>
                  </td>
                  <td>{unit.used > 0 ? count(unit.used) : ""}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
      {open && (
        <UnitDialog
          unit={open}
          language={target}
          onClose={() => setOpen(null)}
          onDone={() => {
            setOpen(null);
            setSaid({ words: t("memory.mended") });
            void again();
          }}
        />
      )}
      <Snackbar
        open={said !== null}
        autoHideDuration={8000}
        onClose={(_, reason) => reason !== "clickaway" && setSaid(null)}
        message={said?.words}
        action={
          said?.back && (
            <Button size="small" color="inherit" onClick={() => remove(said.back ?? [], false)}>
              {t("memory.undo")}
            </Button>
          )
        }
      />
    </>
  );
}
