import { Alert, Button, CircularProgress, LinearProgress } from "@mui/material";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { Link, useParams } from "react-router";
import { ask, sentenceOf, type Schemas } from "../../api/client";
import { goesOn } from "../../api/run";
import { Frame } from "../../desk/Frame";
import { useAddress } from "../../parts/useAddress";
import { PRODUCTS } from "../../scope/queries";
import type { Person } from "../../session/useSession";
import { count, listed, t, when } from "../../words/words";
import { DoneNote } from "./DoneNote";
import { EntriesView } from "./EntriesView";
import { MissingView } from "./MissingView";
import { MisfitsView } from "./MisfitsView";
import { SettingsView } from "./SettingsView";
import { TextsView } from "./TextsView";
import { CODE, codeOf, useLook, useOverview } from "./useCode";
import { useDoing } from "./useDoing";
import "./code.css";

const VIEWS = ["missing", "texts", "unused", "maybe", "tests", "used", "misfits", "settings"] as const;
type View = (typeof VIEWS)[number];
type Overview = Schemas["CodeOverview"];

/** The code of a product: what it says to its tables, and what becomes of that. */
export function CodePage({ me }: { me: Person }) {
  const { slug = "" } = useParams();
  return <CodeOf key={slug} slug={slug} me={me} />;
}

function CodeOf({ slug, me }: { slug: string; me: Person }) {
  const [query, put] = useAddress();
  const queries = useQueryClient();
  const overview = useOverview(slug);
  const products = useQuery(PRODUCTS);
  const product = products.data?.find((one) => one.slug === slug);
  const picker = useRef<HTMLInputElement>(null);
  const [sending, setSending] = useState("");
  const [wrong, setWrong] = useState("");
  // Here, so that what was done can be taken back from another view too.
  const doing = useDoing(slug);
  const of = overview.data;
  const going = goesOn(of?.going);
  const view: View = VIEWS.find((one) => one === query.get("view")) ?? "missing";
  const bring = async (file: File) => {
    setWrong("");
    setSending(file.name);
    try {
      await ask(`${codeOf(slug)}/scans?${String(new URLSearchParams({ name: file.name }))}`, {
        method: "POST",
        bytes: file,
      });
    } catch (failure) {
      setWrong(sentenceOf(failure));
    }
    setSending("");
    await queries.invalidateQueries({ queryKey: [CODE, slug, "overview"] });
  };
  return (
    <Frame
      title={product ? t("code.title", { product: product.name }) : t("code.page")}
      aside={
        <Button size="small" variant="outlined" component={Link} to={`/products/${slug}`}>
          {t("code.product")}
        </Button>
      }
    >
      <div
        className="codepage"
        onDragOver={(event) => event.preventDefault()}
        onDrop={(event) => {
          event.preventDefault();
          const file = event.dataTransfer.files[0];
          if (file && me.coordinator && !going && sending === "") void bring(file);
        }}
      >
        <input
          ref={picker}
          type="file"
          hidden
          accept=".zip"
          aria-label={t("code.bring")}
          onChange={(event) => {
            const file = event.target.files?.[0];
            event.target.value = "";
            if (file) void bring(file);
          }}
        />
        {overview.error ? (
          <Alert severity="error" action={<Button onClick={() => void overview.refetch()}>{t("retry")}</Button>}>
            {sentenceOf(overview.error)}
          </Alert>
        ) : !of ? (
          <CircularProgress size={22} aria-label={t("ledger.loading")} />
        ) : (
          <>
            <div className="lookedat">
              <p>{of.last ? lookedSaid(of.last) : t("code.never")}</p>
              {me.coordinator && (
                <Button
                  variant={of.last ? "outlined" : "contained"}
                  size="small"
                  disabled={going || sending !== ""}
                  onClick={() => picker.current?.click()}
                >
                  {t("code.bring")}
                </Button>
              )}
              {of.taken > 0 && (
                <Button size="small" component="a" href={`${codeOf(slug)}/patch`} download>
                  {t("code.patch")}
                </Button>
              )}
            </div>
            {of.last?.compared && <p className="soft">{comparedSaid(of.last)}</p>}
            {sending && <p role="status">{t("code.sending", { file: sending })}</p>}
            {of.going && <Going scan={of.going} product={slug} mayStop={me.coordinator} />}
            {wrong && (
              <Alert severity="error" onClose={() => setWrong("")}>
                {wrong}
              </Alert>
            )}
            {!of.last && (
              <p className="soft">
                {t("code.first")} <code>./mellow scan … --product {slug}</code>
              </p>
            )}
            {(of.last || view === "settings") && (
              <nav className="views" aria-label={t("code.views")}>
                {VIEWS.map((one) => (
                  <button
                    key={one}
                    type="button"
                    aria-current={one === view ? "page" : undefined}
                    onClick={() => put({ view: one === "missing" ? "" : one, decision: "" })}
                  >
                    {t(`code.view.${one}`)}
                    {one !== "settings" && <small>{count(amountOf(of, one))}</small>}
                  </button>
                ))}
              </nav>
            )}
            {!of.last && view !== "settings" && me.coordinator && (
              <Button size="small" onClick={() => put({ view: "settings" })}>
                {t("code.view.settings")}
              </Button>
            )}
            {view === "settings" && <SettingsView key={slug} product={slug} me={me} />}
            {of.last && product && (
              <>
                <DoneNote doing={doing} />
                {view === "missing" && (
                  <MissingView key={of.last.id} product={product} scan={of.last.id} me={me} doing={doing} />
                )}
                {view === "texts" && (
                  <TextsView key={of.last.id} product={product} overview={of} scan={of.last.id} me={me} doing={doing} />
                )}
                {(view === "unused" || view === "maybe" || view === "tests" || view === "used") && (
                  <EntriesView product={product} how={view} />
                )}
                {view === "misfits" && <MisfitsView product={product} />}
              </>
            )}
          </>
        )}
      </div>
    </Frame>
  );
}

function amountOf(of: Overview, view: Exclude<View, "settings">): number {
  return view === "texts" ? of.open : view === "misfits" ? of.misfits + of.differing : of[view];
}

function lookedSaid(scan: Schemas["ScanReply"]): string {
  const left = [
    ...(scan.ignored > 0 ? [t("code.ignored", { n: scan.ignored })] : []),
    ...(scan.binary > 0 ? [t("code.binary", { n: scan.binary })] : []),
    ...(scan.large > 0 ? [t("code.large", { n: scan.large })] : []),
  ];
  const looked = t("code.looked", {
    n: scan.files,
    name: scan.name,
    person: scan.person,
    when: when(scan.doneAt ?? scan.begunAt),
    lines: scan.lines,
  });
  return left.length > 0 ? `${looked} ${t("code.left", { files: listed(left) })}` : looked;
}

function comparedSaid(scan: Schemas["ScanReply"]): string {
  return t("code.compared", {
    keysNew: scan.keysNew,
    keysGone: scan.keysGone,
    textsNew: scan.textsNew,
    textsGone: scan.textsGone,
    moved: scan.textsMoved,
  });
}

/** A look that is not through: how far it is, or why it failed. */
function Going({ scan: began, product, mayStop }: { scan: Schemas["ScanReply"]; product: string; mayStop: boolean }) {
  const queries = useQueryClient();
  const scan = useLook(product, began).data;
  const over = goesOn(began) && !goesOn(scan);
  useEffect(() => {
    if (over) void queries.invalidateQueries({ queryKey: [CODE, product] });
  }, [over, product, queries]);
  const [stopping, setStopping] = useState(false);
  const stop = () => {
    setStopping(true);
    void ask(`${codeOf(product)}/scans/${scan.id}`, { method: "DELETE" })
      .catch(() => setStopping(false))
      .then(() => queries.invalidateQueries({ queryKey: ["look", product] }));
  };
  if (!goesOn(scan)) {
    return (
      <Alert severity={scan.status === "cancelled" ? "info" : "error"}>
        {t("code.failed", { name: scan.name, why: scan.message || t(`code.status.${scan.status as "lost"}`) })}
      </Alert>
    );
  }
  return (
    <div className="going" role="status">
      <span>
        {scan.total > 0
          ? t("code.going", { name: scan.name, done: scan.done, total: scan.total })
          : t("code.waiting", { name: scan.name })}
      </span>
      <LinearProgress
        variant={scan.total > 0 ? "determinate" : "indeterminate"}
        value={scan.total > 0 ? (100 * scan.done) / scan.total : undefined}
        aria-label={t("code.progress")}
      />
      {mayStop && (
        <Button size="small" disabled={stopping} onClick={stop}>
          {t("code.stop")}
        </Button>
      )}
    </div>
  );
}
