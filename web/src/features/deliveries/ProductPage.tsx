import { Alert, Button, CircularProgress, MenuItem, TextField } from "@mui/material";
import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useParams } from "react-router";
import { useSettled } from "../../parts/useSettled";
import { ask, saidBy, sentenceOf, stepsSaid, type Schemas } from "../../api/client";
import { Frame } from "../../desk/Frame";
import { ledgerAt } from "../../scope/scope";
import { useTables } from "../../scope/useTables";
import type { Person } from "../../session/useSession";
import { TextShown } from "../../text/TextShown";
import { inOrder } from "../../text/shapes";
import { count, languageName, listed, nameOfTag, percent, t } from "../../words/words";
import { ProductDialog } from "../settings";
import { useDesk } from "./useDeliveries";
import "../../parts/pages.css";
import "../../parts/listed.css";
import "./deliveries.css";

type Product = Schemas["ProductReply"];

/** A product: its languages, its tables, what would hurt later, who is asked what, and what people see in another language. */
export function ProductPage({ me }: { me: Person }) {
  const { slug = "" } = useParams();
  const queries = useQueryClient();
  const tables = useTables();
  const [editing, setEditing] = useState(false);
  const product = useQuery({
    queryKey: ["products", slug],
    queryFn: ({ signal }) => ask<Product>(`/api/products/${encodeURIComponent(slug)}`, { signal }),
  });
  const of = product.data;
  return (
    <Frame
      title={of ? t("product.title", { product: of.name, kind: t(`kind.${of.kind as "app"}`) }) : t("products.title")}
      aside={
        <>
          <Button size="small" variant="outlined" component={Link} to={`/products/${slug}/code`}>
            {t("product.code")}
          </Button>
          <Button size="small" variant="outlined" component={Link} to={`/deliveries/${slug}`}>
            {t("product.deliver")}
          </Button>
        </>
      }
    >
      {product.error ? (
        <div className="empty">
          <Alert severity="error" action={<Button onClick={() => void product.refetch()}>{t("retry")}</Button>}>
            {sentenceOf(product.error)}
          </Alert>
        </div>
      ) : !of || !tables.data ? (
        <div className="empty" role="status">
          <CircularProgress size={22} aria-label={t("ledger.loading")} />
        </div>
      ) : (
        <div className="settings ofproduct">
          <div>
            <Languages product={of} />
            {me.coordinator && (
              <Button variant="outlined" size="small" onClick={() => setEditing(true)}>
                {t("product.change")}
              </Button>
            )}
            <section>
              <h2>{t("products.tables")}</h2>
              <table className="listed">
                <tbody>
                  {of.tables.map((one) => {
                    const table = tables.data.find((other) => other.slug === one.slug);
                    return (
                      <tr key={one.slug}>
                        <th scope="row">
                          <Link to={`/tables/${one.slug}`}>{one.name}</Link>
                        </th>
                        <td>{table && t("scope.entries", { n: table.entries })}</td>
                        <td>
                          <Link to={ledgerAt({ tables: [one.slug] })}>{t("product.openLedger")}</Link>
                        </td>
                      </tr>
                    );
                  })}
                </tbody>
              </table>
            </section>
            {of.tables.length > 0 && of.languages.length > 0 && <BorrowedList product={of} />}
          </div>
          {of.tables.length > 0 && of.languages.length > 0 && (
            <aside>
              <Warnings product={of} />
              <WhoIsAskedWhat product={of} />
            </aside>
          )}
          {editing && (
            <ProductDialog
              product={of}
              tables={tables.data}
              onDone={() => {
                setEditing(false);
                void queries.invalidateQueries();
              }}
              onClose={() => setEditing(false)}
            />
          )}
        </div>
      )}
    </Frame>
  );
}

function Languages({ product }: { product: Product }) {
  const desk = useDesk(product.slug);
  const settled = (tag: string) => {
    const counts = desk.data?.product.languages.find((one) => one.language === tag)?.counts;
    return counts && counts.entries > 0 ? percent(Math.floor((100 * counts.settled) / counts.entries)) : "";
  };
  const site = product.kind === "site";
  return (
    <section>
      <h2>{t("products.languages")}</h2>
      <p className="soft">
        {product.start ? t("product.startsIn", { language: nameOfTag(product.start) }) : t("product.startsInSource")}
      </p>
      {product.languages.length === 0 && <p className="soft">{t("product.noLanguages")}</p>}
      {product.languages.length > 0 && (
        <table className="listed">
          <thead>
            <tr>
              <th scope="col">{t("products.selector")}</th>
              <th scope="col">{t("settings.language")}</th>
              <th scope="col">{t("product.shownAs")}</th>
              <th scope="col">{t("product.missingFrom")}</th>
              {site && <th scope="col">{t("product.prefix")}</th>}
              <th scope="col">{t("product.settled")}</th>
            </tr>
          </thead>
          <tbody>
            {product.languages.map((one) => (
              <tr key={one.language.tag} className={one.hidden ? "hiddenone" : undefined}>
                <td className="mono">{one.selector ?? "–"}</td>
                <th scope="row">
                  {languageName(one.language)}
                  {one.hidden && <small className="soft"> {t("product.hidden")}</small>}
                  {product.start === one.language.tag && <small className="soft"> {t("product.starts")}</small>}
                </th>
                <td lang={one.language.tag}>{one.shownAs}</td>
                <td>
                  {one.fallbacks.length > 0
                    ? t("product.fallbacks", { languages: listed(one.fallbacks.map((tag) => nameOfTag(tag))) })
                    : t("product.source")}
                </td>
                {site && <td className="mono">{one.prefix ? `/${one.prefix}` : "–"}</td>}
                <td>{settled(one.language.tag)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </section>
  );
}

function Warnings({ product }: { product: Product }) {
  const warnings = useQuery({
    queryKey: ["products", product.slug, "warnings", product.version],
    queryFn: ({ signal }) =>
      ask<Schemas["ProductWarning"][]>(`/api/products/${encodeURIComponent(product.slug)}/warnings`, { signal }),
  });
  return (
    <section>
      <h2>{t("product.toLookAt")}</h2>
      {warnings.error && <p className="wrong">{sentenceOf(warnings.error)}</p>}
      {warnings.data?.length === 0 && <p className="soft">{t("product.nothingToLookAt")}</p>}
      {warnings.data?.map((one) => (
        <p key={one.sentence} className={one.stops ? "wrong" : "mind"}>
          {saidBy(`warning.${one.code}`, one.values, one.sentence)}{" "}
          {one.table && <Link to={ledgerAt({ tables: [one.table] })}>{t("product.showIt")}</Link>}
          {one.code === "letters-lacking" && one.language && (
            <Link to={ledgerAt({ product: product.slug, languages: [one.language], check: "letters" })}>
              {t("product.showIt")}
            </Link>
          )}
        </p>
      ))}
    </section>
  );
}

const HOW = ["number", "tag", "list", "address"] as const;

/** Type what a product asks for, and see the language and the text, with the steps. */
function WhoIsAskedWhat({ product }: { product: Product }) {
  const [how, setHow] = useState<(typeof HOW)[number]>(product.kind === "panel" ? "number" : "tag");
  const [asked, setAsked] = useState("");
  const [key, setKey] = useState("");
  const wanted = useSettled(asked);
  const wantedKey = useSettled(key);
  const answer = useQuery({
    queryKey: ["products", product.slug, "answer", product.version, how, wanted, wantedKey],
    queryFn: ({ signal }) =>
      ask<Schemas["AnswerReply"]>(
        `/api/products/${encodeURIComponent(product.slug)}/answer?${new URLSearchParams({ how, asked: wanted, key: wantedKey }).toString()}`,
        { signal },
      ),
    enabled: wanted !== "",
    placeholderData: keepPreviousData,
    retry: false,
  });
  return (
    <section>
      <h2>{t("product.whoIsAsked")}</h2>
      <p className="soft">{t("product.whoIsAskedWords")}</p>
      <div className="asking">
        <TextField
          select
          size="small"
          label={t("product.how")}
          value={how}
          onChange={(event) => setHow(event.target.value as "tag")}
        >
          {HOW.map((one) => (
            <MenuItem key={one} value={one}>
              {t(`product.how.${one}`)}
            </MenuItem>
          ))}
        </TextField>
        <TextField
          size="small"
          label={t(`product.how.${how}`)}
          value={asked}
          onChange={(event) => setAsked(event.target.value)}
        />
        <TextField size="small" label={t("product.key")} value={key} onChange={(event) => setKey(event.target.value)} />
      </div>
      {asked !== "" && (
        <div className="answer" role="status">
          {answer.error ? (
            <p className="wrong">{sentenceOf(answer.error)}</p>
          ) : answer.data ? (
            <>
              <p>{stepsSaid(answer.data.steps)}</p>
              <p>
                <b>{nameOfTag(answer.data.language)}</b>
              </p>
              {!answer.data.text && answer.data.textSteps.length > 0 && (
                <p className="wrong">{stepsSaid(answer.data.textSteps)}</p>
              )}
              {answer.data.text && (
                <>
                  <p className="soft">{stepsSaid(answer.data.textSteps)}</p>
                  <p lang={answer.data.from} dir="auto">
                    {answer.data.key ? (
                      <span className="mono">{key}</span>
                    ) : (
                      <TextShown
                        text={inOrder(answer.data.text)
                          .map(([, text]) => text)
                          .join(" / ")}
                      />
                    )}
                  </p>
                </>
              )}
            </>
          ) : null}
        </div>
      )}
    </section>
  );
}

/** What people see in another language; each leads to its cell. */
function BorrowedList({ product }: { product: Product }) {
  const [language, setLanguage] = useState("");
  const [find, setFind] = useState("");
  const [from, setFrom] = useState(0);
  const page = useQuery({
    queryKey: ["products", product.slug, "borrowed", product.version, language, find, from],
    queryFn: ({ signal }) =>
      ask<Schemas["BorrowedPage"]>(
        `/api/products/${encodeURIComponent(product.slug)}/borrowed?${new URLSearchParams({ in: language, find, from: String(from) }).toString()}`,
        { signal },
      ),
    placeholderData: keepPreviousData,
  });
  const all = page.data?.texts ?? [];
  return (
    <section>
      <h2>{t("product.borrowed")}</h2>
      <div className="asking">
        <TextField
          select
          size="small"
          label={t("settings.language")}
          value={language}
          onChange={(event) => {
            setLanguage(event.target.value);
            setFrom(0);
          }}
        >
          <MenuItem value="">{t("product.allLanguages")}</MenuItem>
          {product.languages.map((one) => (
            <MenuItem key={one.language.tag} value={one.language.tag}>
              {languageName(one.language)}
            </MenuItem>
          ))}
        </TextField>
        <TextField
          size="small"
          label={t("product.find")}
          value={find}
          onChange={(event) => {
            setFind(event.target.value);
            setFrom(0);
          }}
        />
      </div>
      {page.error && <p className="wrong">{sentenceOf(page.error)}</p>}
      {page.data && all.length === 0 && <p className="soft">{t("product.noneBorrowed")}</p>}
      {all.length > 0 && (
        <table className="listed">
          <thead>
            <tr>
              <th scope="col">{t("product.entry")}</th>
              <th scope="col">{t("product.in")}</th>
              <th scope="col">{t("product.theySee")}</th>
              <th scope="col">{t("product.from")}</th>
            </tr>
          </thead>
          <tbody>
            {all.map((one) => (
              <tr key={`${one.table} ${one.key} ${one.context} ${one.language}`}>
                <th scope="row" className="mono">
                  <Link to={ledgerAt({ tables: [one.table], languages: [one.language], words: one.key })}>
                    {one.key}
                  </Link>
                </th>
                <td>{one.language}</td>
                <td lang={one.from} dir="auto">
                  <TextShown
                    text={inOrder(one.text)
                      .map(([, text]) => text)
                      .join(" / ")}
                  />
                </td>
                <td>{one.source ? t("product.fromSource", { language: nameOfTag(one.from) }) : nameOfTag(one.from)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {(from > 0 || page.data?.more) && (
        <p>
          <Button size="small" disabled={from === 0} onClick={() => setFrom(Math.max(0, from - 100))}>
            {t("product.before")}
          </Button>{" "}
          {count(from + 1)}–{count(from + all.length)}{" "}
          <Button size="small" disabled={!page.data?.more} onClick={() => setFrom(from + 100)}>
            {t("product.after")}
          </Button>
        </p>
      )}
    </section>
  );
}
