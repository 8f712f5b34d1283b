import { Alert, Button, CircularProgress, LinearProgress } from "@mui/material";
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useParams, useSearchParams } from "react-router";
import { ask, sentenceOf, type Schemas } from "../../api/client";
import { Frame } from "../../desk/Frame";
import { later } from "../../parts/later";
import { ledgerAt } from "../../scope/scope";
import type { Person } from "../../session/useSession";
import { count, moment, when, listed, t, nameOfTag } from "../../words/words";
import { Comparison } from "./Comparison";
import { recipeSaid } from "./recipes";
import { DELIVERIES, going, useDesk, useFollowing, useHistory, type Desk, type Verdict } from "./useDeliveries";
import "../../parts/listed.css";
import "./deliveries.css";

const RecipeDialog = later(async () => (await import("./RecipeDialog")).RecipeDialog);
const PlanDialog = later(async () => (await import("./PlanDialog")).PlanDialog);
const BundlesDialog = later(async () => (await import("./BundlesDialog")).BundlesDialog);
const WebhooksDialog = later(async () => (await import("./WebhooksDialog")).WebhooksDialog);
const RecallDialog = later(async () => (await import("./RecallDialog")).RecallDialog);

/** What a product gets and got: recipes, what may go out, what changed, what was delivered. */
export function DeliveryPage({ me }: { me: Person }) {
  const { slug = "" } = useParams();
  const desk = useDesk(slug);
  useFollowing();
  const product = desk.data?.product;
  return (
    <Frame
      title={product ? t("delivery.title", { product: product.name }) : t("deliveries.title")}
      aside={
        <Button size="small" variant="outlined" component={Link} to={`/products/${slug}`}>
          {t("deliveries.product")}
        </Button>
      }
    >
      {desk.error && !desk.data ? (
        <div className="empty">
          <Alert severity="error" action={<Button onClick={() => void desk.refetch()}>{t("retry")}</Button>}>
            {sentenceOf(desk.error)}
          </Alert>
        </div>
      ) : desk.data ? (
        <Open key={slug} slug={slug} desk={desk.data} me={me} />
      ) : (
        <div className="empty" role="status">
          <CircularProgress size={22} aria-label={t("ledger.loading")} />
        </div>
      )}
    </Frame>
  );
}

function Open({ slug, desk, me }: { slug: string; desk: Desk; me: Person }) {
  const queries = useQueryClient();
  const [query, setQuery] = useSearchParams();
  const [editing, setEditing] = useState<Schemas["Recipe"] | "new" | null>(null);
  const [planning, setPlanning] = useState(false);
  const [telling, setTelling] = useState(false);
  const [serving, setServing] = useState(false);
  const [recalling, setRecalling] = useState<number | null>(null);
  const [wrong, setWrong] = useState("");
  const [asking, setAsking] = useState(false);
  const { product } = desk;
  const address = `/api/products/${encodeURIComponent(slug)}`;
  const history = useHistory(slug, product.nextNumber);
  const again = () => queries.invalidateQueries({ queryKey: [DELIVERIES] });
  const active = product.recipes.filter((one) => one.active);
  const busy = going(desk);
  const failed = product.run?.status === "failed" ? product.run.message : "";
  const deliver = () => {
    setWrong("");
    setAsking(true);
    ask(`${address}/deliveries`, { method: "POST" })
      .catch((failure: unknown) => setWrong(sentenceOf(failure)))
      // Until the screen knows of it, a second press would ask for a second one.
      .finally(() => void again().finally(() => setAsking(false)));
  };
  const from = Number(query.get("from") ?? 0);
  const to = Number(query.get("to") ?? 0);
  const stops =
    product.holes.length > 0 ||
    product.languages.some((one) => one.answer === "stop" || (one.start && one.answer === "held"));
  return (
    <div className="delivering">
      <nav className="recipes" aria-label={t("delivery.recipes")} tabIndex={0}>
        {product.recipes.map((one) => (
          <button key={one.id} type="button" disabled={!me.coordinator} onClick={() => setEditing(one)}>
            <b>{one.name}</b>
            <small className="soft">{recipeSaid(one.settings)}</small>
            {!one.active && <small className="mind">{t("recipe.off")}</small>}
          </button>
        ))}
        {product.recipes.length === 0 && <p className="soft">{t("delivery.noRecipes")}</p>}
        {me.coordinator && (
          <Button variant="outlined" size="small" onClick={() => setEditing("new")}>
            {t("recipe.new")}
          </Button>
        )}
        <div className="byitself">
          <small className="soft">{t("plan.byItself")}</small>
          <p>{planSaid(product.plan)}</p>
          {product.plan.nextAt && <p className="soft">{t("plan.next", { at: moment(product.plan.nextAt) })}</p>}
          {product.plan.lastSaid && <p className="soft">{product.plan.lastSaid}</p>}
          {me.coordinator && (
            <Button size="small" onClick={() => setPlanning(true)}>
              {t("plan.change")}
            </Button>
          )}
          {product.telling.unheard > 0 && <p className="wrong">{t("told.unheard", { n: product.telling.unheard })}</p>}
          {me.coordinator && (
            <Button size="small" onClick={() => setTelling(true)}>
              {product.telling.hooks > 0 ? t("told.change", { n: product.telling.hooks }) : t("told.tell")}
            </Button>
          )}
          {me.coordinator && (
            <Button size="small" onClick={() => setServing(true)}>
              {t("bundles.fetch")}
            </Button>
          )}
        </div>
      </nav>
      <div className="goingout">
        <section>
          <h2>{t("delivery.mayIt")}</h2>
          {product.holes.map((hole) => (
            <p key={hole.table} className="wrong">
              <Link to={ledgerAt({ tables: [hole.table] })}>
                {t("delivery.hole", { n: hole.entries, table: hole.tableName })}
              </Link>
            </p>
          ))}
          <table className="listed">
            <tbody>
              {product.languages.map((one) => (
                <LanguageLine key={one.language} verdict={one} product={slug} />
              ))}
            </tbody>
          </table>
        </section>
        {from > 0 && to > 0 ? (
          <Comparison slug={slug} from={from} to={to} ahead={to === product.nextNumber} onClose={() => setQuery({})} />
        ) : (
          product.last && (
            <p className="soft">
              {t("deliveries.changedSince", { n: product.changed, number: count(product.last.number) })}{" "}
              {me.coordinator && active.length > 0 && !stops && (
                <Button
                  size="small"
                  onClick={() => setQuery({ from: String(product.last?.number), to: String(product.nextNumber) })}
                >
                  {t("delivery.ahead")}
                </Button>
              )}
            </p>
          )
        )}
        <section>
          <h2>{t("delivery.soFar")}</h2>
          {history.error && <p className="wrong">{sentenceOf(history.error)}</p>}
          {history.data?.length === 0 && <p className="soft">{t("delivery.none")}</p>}
          {history.data && history.data.length > 0 && (
            <table className="listed past">
              <thead>
                <tr>
                  <th scope="col">{t("delivery.number")}</th>
                  <th scope="col">{t("delivery.when")}</th>
                  <th scope="col">{t("delivery.who")}</th>
                  <th scope="col">{t("delivery.what")}</th>
                  <th scope="col">{t("delivery.contents")}</th>
                  <td />
                </tr>
              </thead>
              <tbody>
                {history.data.map((one, at) => (
                  <tr key={one.number} className={one.recalled ? "recalled" : undefined}>
                    <th scope="row">{one.number}</th>
                    <td>{when(one.at)}</td>
                    <td>{one.scheduled ? t("delivery.byItself") : one.by}</td>
                    <td>
                      {one.recalled ? (
                        <span className="wrong">{t("delivery.recalled", { why: one.recalled })}</span>
                      ) : (
                        t("delivery.changes", { n: one.changed })
                      )}
                      <HeldBack languages={one.languages} />
                      {one.outboxSaid && (
                        <small className="wrong"> {t("delivery.notLaid", { why: one.outboxSaid })}</small>
                      )}
                    </td>
                    <td className="mono" title={one.contents}>
                      {one.contents.slice(0, 8)}
                    </td>
                    <td className="order">
                      <Button size="small" component="a" href={`${address}/deliveries/${one.number}/archive`}>
                        {t("delivery.download")}
                      </Button>
                      {history.data[at + 1] && (
                        <Button
                          size="small"
                          onClick={() =>
                            setQuery({ from: String(history.data[at + 1]?.number), to: String(one.number) })
                          }
                        >
                          {t("delivery.compare")}
                        </Button>
                      )}
                      {me.coordinator && !one.recalled && (
                        <Button size="small" color="error" onClick={() => setRecalling(one.number)}>
                          {t("delivery.recall")}
                        </Button>
                      )}
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          )}
        </section>
      </div>
      <footer>
        {busy && <LinearProgress aria-label={t("delivery.going")} {...progressOf(product.run)} />}
        <p role="status">
          {busy ? (
            t("delivery.going")
          ) : (
            <>
              <b>{t("delivery.nextNumber", { number: product.nextNumber })}</b>{" "}
              {active.length === 0
                ? t("deliveries.noRecipe")
                : stops
                  ? t("delivery.stopped")
                  : product.plan.outbox && desk.outboxThere
                    ? t("delivery.goesToOutbox")
                    : t("delivery.goesToDownload")}
            </>
          )}
        </p>
        {/* What stops the next one is marked above; that it stopped the last one is no news. */}
        {(wrong || (!busy && !stops && failed)) && <Alert severity="error">{wrong || failed}</Alert>}
        {me.coordinator && (
          <div className="todo">
            {busy ? (
              <Button onClick={() => void ask(`${address}/deliveries/cancel`, { method: "POST" }).finally(again)}>
                {t("cancel")}
              </Button>
            ) : (
              <>
                {active.length > 0 && !stops && (
                  <Button variant="outlined" component="a" href={`${address}/deliveries/try`}>
                    {t("delivery.try")}
                  </Button>
                )}
                <Button variant="contained" disabled={asking || active.length === 0 || stops} onClick={deliver}>
                  {t("delivery.deliver", { number: product.nextNumber })}
                </Button>
              </>
            )}
          </div>
        )}
      </footer>
      {editing && (
        <RecipeDialog
          slug={slug}
          recipe={editing === "new" ? null : editing}
          languages={product.languages.map((one) => one.language)}
          onDone={() => {
            setEditing(null);
            void again();
          }}
          onClose={() => setEditing(null)}
        />
      )}
      {planning && (
        <PlanDialog
          slug={slug}
          plan={product.plan}
          outboxThere={desk.outboxThere}
          onDone={() => {
            setPlanning(false);
            void again();
          }}
          onClose={() => setPlanning(false)}
        />
      )}
      {telling && (
        <WebhooksDialog
          slug={slug}
          onClose={() => {
            setTelling(false);
            void again();
          }}
        />
      )}
      {serving && <BundlesDialog slug={slug} onClose={() => setServing(false)} />}
      {recalling !== null && (
        <RecallDialog
          slug={slug}
          number={recalling}
          onDone={() => {
            setRecalling(null);
            void again();
          }}
          onClose={() => setRecalling(null)}
        />
      )}
    </div>
  );
}

function progressOf(run: Schemas["RunReply"] | undefined) {
  return run && run.total > 0
    ? { variant: "determinate" as const, value: (100 * run.done) / run.total }
    : { variant: "indeterminate" as const };
}

/** Whether a language may go out, and what to look at, each with a link to it. */
function LanguageLine({ verdict, product }: { verdict: Verdict; product: string }) {
  const { counts, language } = verdict;
  const at = (only: string, check = "") =>
    `/ledger?product=${encodeURIComponent(product)}&in=${language}${only && `&only=${only}`}${check && `&check=${check}`}`;
  const missing = counts.entries - counts.settled;
  return (
    <tr>
      <th scope="row">{nameOfTag(language)}</th>
      <td className={verdict.answer === "yes" ? "yes" : "wrong"}>{t(`verdict.${verdict.answer as "yes"}`)}</td>
      <td>
        {t("delivery.settledOf", { settled: count(counts.settled), entries: count(counts.entries) })}
        {counts.blocked > 0 && <Link to={at("", "blocker")}>{t("delivery.blocked", { n: counts.blocked })}</Link>}
        {counts.unfit > 0 && <Link to={at("", "scene")}>{t("delivery.unfit", { n: counts.unfit })}</Link>}
        {counts.stale > 0 && <Link to={at("stale")}>{t("delivery.stale", { n: counts.stale })}</Link>}
        {missing > 0 && (
          <Link to={at("untranslated,pencilled,offered,returned")}>{t("delivery.missing", { n: missing })}</Link>
        )}
        {counts.offers > 0 && <Link to={`/review?in=${language}`}>{t("delivery.offers", { n: counts.offers })}</Link>}
      </td>
    </tr>
  );
}

function HeldBack({ languages }: { languages: Verdict[] }) {
  const held = languages.filter((one) => one.answer === "held").map((one) => nameOfTag(one.language));
  return held.length > 0 ? (
    <small className="mind"> {t("delivery.heldBack", { languages: listed(held) })}</small>
  ) : null;
}

/** When a product goes out by itself, as a sentence. */
function planSaid(plan: Schemas["DeliveryPlan"]): string {
  if (plan.everyHours !== undefined) return t("plan.everyHours", { n: plan.everyHours });
  return plan.times.length > 0 ? t("plan.at", { times: listed(plan.times), zone: plan.zone }) : t("plan.never");
}
