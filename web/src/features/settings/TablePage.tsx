import { Alert, Button, Checkbox, FormControlLabel, IconButton, TextField } from "@mui/material";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { ask, sentenceOf, type Schemas } from "../../api/client";
import { Frame } from "../../desk/Frame";
import { loadFontFor } from "../../theme/fonts";
import { languageName, t, when } from "../../words/words";
import { ledgerAt } from "../../scope/scope";
import { useTables } from "../../scope/useTables";
import type { Person } from "../../session/useSession";
import { Confirm } from "../../parts/Confirm";
import { LanguagePicker } from "./LanguagePicker";
import "../../parts/pages.css";
import "../../parts/listed.css";

/** The settings of a table: its name, its languages in order, what was removed from it. */
export function TablePage({ me }: { me: Person }) {
  const { slug = "" } = useParams();
  const tables = useTables();
  const table = tables.data?.find((one) => one.slug === slug);
  return (
    <Frame title={t("settings.table", { table: table?.name ?? slug })}>
      <div className="settings">
        {tables.isError && <Alert severity="error">{sentenceOf(tables.error)}</Alert>}
        {tables.data && !table && <Alert severity="error">{t("empty.noSuchTable", { table: slug })}</Alert>}
        {table && <TableForm key={`${table.slug} ${table.version}`} table={table} editable={me.coordinator} />}
        {table && <RemovedEntries slug={slug} editable={me.coordinator} />}
      </div>
    </Frame>
  );
}

type Kept = Schemas["LanguageReply"];

function TableForm({ table, editable }: { table: Schemas["TableReply"]; editable: boolean }) {
  const [name, setName] = useState(table.name);
  const [kept, setKept] = useState<Pick<Kept, "language" | "settlesOwn" | "settlesDrafts">[]>(table.languages);
  const [wrong, setWrong] = useState<string | null>(null);
  const [leaving, setLeaving] = useState<Kept | null>(null);
  const [removing, setRemoving] = useState(false);
  const [saved, setSaved] = useState(false);
  const queries = useQueryClient();
  const navigate = useNavigate();
  const address = `/api/tables/${encodeURIComponent(table.slug)}`;
  const run = (work: Promise<unknown>, then?: () => void) => {
    setWrong(null);
    setSaved(false);
    work
      .then(async () => {
        await queries.invalidateQueries({ queryKey: ["tables"] });
        then?.();
      })
      .catch((failure: unknown) => setWrong(sentenceOf(failure)));
  };
  useEffect(() => {
    for (const { language } of kept) loadFontFor(language.script);
  }, [kept]);
  const move = (at: number, by: number) => {
    const next = [...kept];
    const [one] = next.splice(at, 1);
    if (one) next.splice(at + by, 0, one);
    setKept(next);
  };
  const drop = (tag: string) => setKept(kept.filter((one) => one.language.tag !== tag));
  const texts = (one: Kept) => table.entries - (one.states.untranslated ?? 0);
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        const languages = kept.map(({ language: { tag }, settlesOwn, settlesDrafts }) => ({
          tag,
          settlesOwn,
          settlesDrafts,
        }));
        run(ask(address, { method: "PUT", json: { version: table.version, name, languages } }), () => setSaved(true));
      }}
    >
      <fieldset className="bare" disabled={!editable}>
        <TextField
          label={t("settings.name")}
          size="small"
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
        <p className="soft">
          {t("settings.sourceLanguage", { language: languageName(table.source) })} ·{" "}
          <Link to={ledgerAt({ tables: [table.slug] })}>{t("scope.entries", { n: table.entries })}</Link>
        </p>
        <h2>{t("settings.languages")}</h2>
        <p className="soft">{t("settings.languagesWords")}</p>
        <table className="listed">
          <thead>
            <tr>
              <th scope="col">{t("settings.language")}</th>
              <th scope="col">{t("settings.tag")}</th>
              <th scope="col">{t("settings.plurals")}</th>
              <th scope="col">{t("settings.own")}</th>
              <th scope="col">
                <span className="visually-hidden">{t("settings.order")}</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {kept.map(({ language, settlesOwn, settlesDrafts }, at) => (
              <tr key={language.tag}>
                <th scope="row">
                  {languageName(language)} <span className="soft">· {language.ownName}</span>
                </th>
                <td className="mono">{language.tag}</td>
                <td title={language.plurals.map((one) => `${one.category}: ${one.examples}`).join("; ")}>
                  {language.plurals.map((one) => one.category).join(", ")}
                  {language.rightToLeft && ` · ${t("settings.rightToLeft")}`}
                </td>
                <td>
                  <FormControlLabel
                    control={
                      <Checkbox
                        size="small"
                        checked={settlesOwn}
                        onChange={(_, on) =>
                          setKept(
                            kept.map((one) => (one.language.tag === language.tag ? { ...one, settlesOwn: on } : one)),
                          )
                        }
                      />
                    }
                    label={t("settings.ownWords")}
                  />
                  <FormControlLabel
                    control={
                      <Checkbox
                        size="small"
                        checked={settlesDrafts}
                        onChange={(_, on) =>
                          setKept(
                            kept.map((one) =>
                              one.language.tag === language.tag ? { ...one, settlesDrafts: on } : one,
                            ),
                          )
                        }
                      />
                    }
                    label={t("settings.draftWords")}
                  />
                </td>
                <td className="order">
                  <IconButton
                    size="small"
                    disabled={at === 0}
                    aria-label={t("settings.up", { language: languageName(language) })}
                    onClick={() => move(at, -1)}
                  >
                    ↑
                  </IconButton>
                  <IconButton
                    size="small"
                    disabled={at === kept.length - 1}
                    aria-label={t("settings.down", { language: languageName(language) })}
                    onClick={() => move(at, 1)}
                  >
                    ↓
                  </IconButton>
                  <Button
                    size="small"
                    color="error"
                    aria-label={t("settings.dropLanguage", { language: languageName(language) })}
                    onClick={() => {
                      const asSaved = table.languages.find((one) => one.language.tag === language.tag);
                      if (asSaved && texts(asSaved) > 0) setLeaving(asSaved);
                      else drop(language.tag);
                    }}
                  >
                    {t("settings.remove")}
                  </Button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
        <div className="add">
          <LanguagePicker
            label={t("settings.addLanguage")}
            onPick={(language) => {
              if (language.tag !== table.source.tag && !kept.some((one) => one.language.tag === language.tag)) {
                setKept([...kept, { language, settlesOwn: false, settlesDrafts: false }]);
              }
            }}
          />
        </div>
        {wrong && <Alert severity="error">{wrong}</Alert>}
        {saved && <Alert severity="success">{t("settings.saved")}</Alert>}
        <div className="actions">
          <Button type="submit" variant="contained" disabled={!editable || name.trim() === ""}>
            {t("save")}
          </Button>
          <Button color="error" onClick={() => setRemoving(true)}>
            {t("settings.removeTable")}
          </Button>
        </div>
      </fieldset>
      {leaving && (
        <Confirm
          title={t("settings.leaveTitle", { language: languageName(leaving.language) })}
          words={t("settings.leaveWords", { n: texts(leaving) })}
          action={t("settings.remove")}
          onYes={() => {
            drop(leaving.language.tag);
            setLeaving(null);
          }}
          onNo={() => setLeaving(null)}
        />
      )}
      {removing && (
        <Confirm
          title={t("settings.removeTitle", { table: table.name })}
          words={t("settings.removeWords", { n: table.entries })}
          action={t("settings.removeTable")}
          onYes={() => run(ask(address, { method: "DELETE" }), () => void navigate("/products"))}
          onNo={() => setRemoving(false)}
        />
      )}
    </form>
  );
}

function RemovedEntries({ slug, editable }: { slug: string; editable: boolean }) {
  const queries = useQueryClient();
  const [wrong, setWrong] = useState<string | null>(null);
  const removed = useQuery({
    queryKey: ["removed-entries", slug],
    queryFn: ({ signal }) =>
      ask<Schemas["EntryReply"][]>(`/api/tables/${encodeURIComponent(slug)}/removed-entries`, { signal }),
  });
  const putBack = (entries: number[]) =>
    void ask("/api/entries/put-back", { method: "POST", json: { entries } })
      .then(() =>
        Promise.all([
          queries.invalidateQueries({ queryKey: ["removed-entries", slug] }),
          queries.invalidateQueries({ queryKey: ["tables"] }),
        ]),
      )
      .catch((failure: unknown) => setWrong(sentenceOf(failure)));
  return (
    <section>
      <h2>{t("settings.removedEntries")}</h2>
      {removed.isError && <Alert severity="error">{sentenceOf(removed.error)}</Alert>}
      {wrong && <Alert severity="error">{wrong}</Alert>}
      {removed.data?.length === 0 && <p className="soft">{t("settings.noneRemoved")}</p>}
      {removed.data && removed.data.length > 0 && (
        <table className="listed">
          <tbody>
            {removed.data.map((one) => (
              <tr key={one.id}>
                <th scope="row" className="mono">
                  {one.description.key}
                </th>
                <td>{Object.values(one.source).join(" / ")}</td>
                <td className="order">
                  <Button size="small" disabled={!editable} onClick={() => putBack([one.id])}>
                    {t("settings.putBack")}
                  </Button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </section>
  );
}

/** The tables that were removed, to be put back. */
export function RemovedTables({ editable }: { editable: boolean }) {
  const queries = useQueryClient();
  const [wrong, setWrong] = useState<string | null>(null);
  const removed = useQuery({
    queryKey: ["removed-tables"],
    queryFn: ({ signal }) => ask<Schemas["Removed"][]>("/api/tables/removed", { signal }),
  });
  if (!removed.data?.length) return null;
  return (
    <section>
      <h2>{t("settings.removedTables")}</h2>
      {wrong && <Alert severity="error">{wrong}</Alert>}
      <table className="listed">
        <tbody>
          {removed.data.map((one) => (
            <tr key={one.id}>
              <th scope="row">{one.name}</th>
              <td>{t("scope.entries", { n: one.entries })}</td>
              <td>{when(one.removedAt)}</td>
              <td className="order">
                <Button
                  size="small"
                  disabled={!editable}
                  onClick={() =>
                    void ask(`/api/tables/removed/${one.id}/put-back`, { method: "POST" })
                      .then(() =>
                        Promise.all([
                          queries.invalidateQueries({ queryKey: ["removed-tables"] }),
                          queries.invalidateQueries({ queryKey: ["tables"] }),
                        ]),
                      )
                      .catch((failure: unknown) => setWrong(sentenceOf(failure)))
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
  );
}
