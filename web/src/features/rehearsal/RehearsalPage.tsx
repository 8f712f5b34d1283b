import { Alert, Button, CircularProgress, Snackbar } from "@mui/material";
import { useState, type ReactNode } from "react";
import { Link, useLocation, useNavigate, useParams, useSearchParams } from "react-router";
import { ask, sentenceOf, type Schemas } from "../../api/client";
import { Frame } from "../../desk/Frame";
import { Confirm } from "../../parts/Confirm";
import { useProducts, useTables } from "../../scope/useTables";
import type { Person } from "../../session/useSession";
import { t } from "../../words/words";
import { StageShown, staysOf, useFindings, usePlayed, useSceneFiles, useScenes, useScenesFollow } from "../scenes";
import { Glance } from "./Glance";
import { PlaceNote } from "./PlaceNote";
import { askedIn, chosenWith, findingsNow, MOST, playedQuery, shownLanguages } from "./playing";
import { RehearsalLine } from "./RehearsalLine";
import { SceneCell } from "./SceneCell";
import { SceneFindings } from "./SceneFindings";
import { SceneList } from "./SceneList";
import { Switching } from "./Switching";
import { DialogueBar, PlaceChoices, Plays, Sizes, Values } from "./Toys";
import { useAnswer } from "./useAnswer";
import { useDialogue } from "./useDialogue";
import "./rehearsal.css";

/** A place that is looked at, in a language. */
interface Chosen {
  language: string;
  place: number;
}

/** A product as its users will see it: its scenes in one to four languages, with what is wrong at their places. */
export function RehearsalPage({ me }: { me: Person }) {
  const { slug = "", scene = "" } = useParams();
  const [query, setQuery] = useSearchParams();
  const navigate = useNavigate();
  const products = useProducts();
  const tables = useTables();
  const product = products.data?.find((one) => one.slug === slug) ?? (slug ? undefined : products.data?.[0]);
  const scenes = useScenes(product?.slug ?? "");
  const findings = useFindings(product?.slug ?? "");
  const again = useScenesFollow();
  const open = scenes.data?.find(({ id }) => String(id) === scene) ?? (scene ? undefined : scenes.data?.[0]);
  const asked = askedIn(query);
  const answer = useAnswer(product, asked);
  const tags = shownLanguages(query.getAll("in"), asked ? (answer.data?.language ?? null) : null);
  const played = usePlayed(product?.slug ?? "", open?.id, playedQuery(query, tags));
  const [side, setSide] = useState(() => query.get("in") ?? "");
  const chosen = chosenIn(query, side);
  const [later, setLater] = useState(false);
  /** What was switched to and is not shown yet, where a screen keeps its language until it is made anew. */
  const [kept, setKept] = useState<{ scene: number; query: URLSearchParams } | null>(null);
  const waiting = kept && kept.scene === open?.id ? kept.query : null;
  const [removing, setRemoving] = useState(false);
  const dialogue = useDialogue(staysOf(played.data?.drawing ?? "", chosen?.place), open?.id ?? 0);
  // A first scene may have the address of another page: what was left out of it is told there.
  const told = (useLocation().state as { said?: string } | null)?.said;
  const [said, setSaid] = useState("");
  const changed = (changes: Record<string, string[]>, from = query) => {
    const next = new URLSearchParams(from);
    for (const [name, values] of Object.entries(changes)) {
      next.delete(name);
      for (const value of values) next.append(name, value);
    }
    return next;
  };
  /** The address of a scene, seen as this one is, or would be if it were made anew. */
  const at = (to: string, id?: number) => {
    const seen = changed({ at: [], choose: [] }, waiting ?? query).toString();
    return `/rehearsal/${to}${id ? `/${id}` : ""}${seen && `?${seen}`}`;
  };
  const change = (name: string, values: string[]) => setQuery(changed({ [name]: values }), { replace: true });
  const choose = (language: string, place: number) => {
    setSide(language);
    change("at", [String(place)]);
  };
  const unchoose = () => change("at", []);
  const switchTo = (changes: Record<string, string[]>) => {
    if (later && open) setKept({ scene: open.id, query: changed(changes) });
    else setQuery(changed(changes), { replace: true });
  };
  const files = useSceneFiles(product?.slug ?? "", (added, words) => {
    again();
    setSaid(words);
    if (added[0]) void navigate(at(product?.slug ?? "", added[0].id), { state: { said: words } });
  });
  const remove = async (one: Schemas["SceneReply"]) => {
    setRemoving(false);
    try {
      await ask(`/api/products/${product?.slug ?? ""}/scenes/${one.id}?version=${one.version}`, { method: "DELETE" });
      again();
      void navigate(at(product?.slug ?? ""), { state: { said: t("rehearsal.removed", { name: one.name }) } });
    } catch (failure) {
      setSaid(sentenceOf(failure));
    }
  };
  const now = tags.length > 0 ? tags : (played.data?.stages.map(({ language }) => language) ?? []);
  const failure = (products.data ? null : products.error) ?? (scenes.data ? null : scenes.error) ?? played.error;
  const stage =
    chosen && (played.data?.stages.find(({ language }) => language === chosen.language) ?? played.data?.stages[0]);
  const text = stage?.texts.find(({ place }) => place === chosen?.place);
  const counts = findings.data?.counts ?? [];
  const all = counts.reduce((sum, one) => sum + one.wrong, 0);
  return (
    <Frame
      title={
        product && (
          <RehearsalLine
            product={product}
            products={products.data ?? []}
            scene={open?.name}
            now={now}
            onProduct={(to) => void navigate(`/rehearsal/${to}`)}
            onLanguages={(chosen) => setQuery(changed({ in: chosen, asked: [] }), { replace: true })}
          />
        )
      }
      aside={
        product && open ? (
          <>
            {all > 0 && (
              <Link className="allfindings" to={`/ledger?product=${product.slug}&in=${now.join(",")}&check=scene`}>
                {t("rehearsal.allToMend", { n: all })}
              </Link>
            )}
            {me.coordinator && open.picture && (
              <Button
                size="small"
                variant="outlined"
                component={Link}
                to={`/rehearsal/${product.slug}/${open.id}/places`}
              >
                {t("rehearsal.mark")}
              </Button>
            )}
            <Button
              size="small"
              variant="outlined"
              component={Link}
              to={`/rehearsal/${product.slug}/sheet?${now[0] ? `in=${now[0]}` : ""}`}
            >
              {t("rehearsal.sheet")}
            </Button>
          </>
        ) : undefined
      }
    >
      {failure && !played.data ? (
        <Failure sentence={sentenceOf(failure)} onAgain={again} />
      ) : products.data && !product ? (
        <div className="empty">
          <h2>{t("rehearsal.noProduct")}</h2>
          <Link to="/products">{t("tabs.products")}</Link>
        </div>
      ) : !scenes.data || !product ? (
        <div className="empty" role="status">
          <CircularProgress size={22} aria-label={t("ledger.loading")} />
        </div>
      ) : (
        <div className="rehearsal">
          <SceneList
            scenes={scenes.data}
            open={open?.id}
            counts={counts}
            at={(id) => at(product.slug, id)}
            files={me.coordinator ? files : null}
          />
          <div className="playing" tabIndex={0} role="region" aria-label={t("rehearsal.stage")}>
            {scene !== "" && !open ? (
              <p>{t("rehearsal.gone")}</p>
            ) : !open ? (
              <p className="soft">{t("rehearsal.none")}</p>
            ) : (
              <>
                {failure && (
                  <p className="wrong" role="alert">
                    {sentenceOf(failure)}
                  </p>
                )}
                {played.data ? (
                  <>
                    <Within kind={product.kind} within={query.get("within") ?? ""}>
                      <div className="stages" aria-busy={played.isPlaceholderData}>
                        {played.data.stages.map((one) => (
                          <StageShown
                            key={one.language}
                            product={product.slug}
                            scene={played.data}
                            stage={one}
                            chosen={chosen && stage === one ? chosen.place : 0}
                            onChoose={(place) => choose(one.language, place)}
                            look={{ size: Number(query.get("size") ?? 100) / 100, turn: dialogue.turn }}
                          />
                        ))}
                      </div>
                    </Within>
                    <DialogueBar dialogue={dialogue} />
                    <Switching
                      product={product}
                      query={waiting ?? query}
                      now={now[0]}
                      answer={answer}
                      onAsk={(how, what) => switchTo({ asked: what === "" ? [] : [`${how}:${what}`] })}
                      onLanguage={(tag) => switchTo({ asked: [], in: tag ? [tag, ...now.slice(1)] : [] })}
                    />
                    {product.kind === "app" && (
                      <p className="habit">
                        <Button size="small" aria-pressed={later} onClick={() => setLater(!later)}>
                          {t(later ? "rehearsal.keepsLanguage" : "rehearsal.atOnce")}
                        </Button>
                        {waiting && (
                          <Button
                            size="small"
                            variant="outlined"
                            onClick={() => {
                              setQuery(waiting, { replace: true });
                              setKept(null);
                            }}
                          >
                            {t("rehearsal.makeAnew")}
                          </Button>
                        )}
                      </p>
                    )}
                    <Sizes kind={product.kind} query={query} onChange={change} />
                    <PlaceChoices
                      choices={played.data.choices}
                      onChoose={(place, value) => change("choose", chosenWith(query, place, value))}
                    />
                    <Values
                      key={open.id}
                      values={played.data.placeholders}
                      stages={played.data.stages}
                      onValues={(values) =>
                        change(
                          "with",
                          Object.entries(values).map(([name, value]) => `${name}=${value}`),
                        )
                      }
                    />
                    <Plays query={query} onChange={change} languages={now} delivery={played.data.delivery ?? null} />
                    {me.coordinator && (
                      <p className="last">
                        <Button size="small" color="error" onClick={() => setRemoving(true)}>
                          {t("rehearsal.remove")}
                        </Button>
                      </p>
                    )}
                  </>
                ) : (
                  <p className="soft" role="status">
                    {t("ledger.loading")}
                  </p>
                )}
              </>
            )}
          </div>
          {open && played.data && (
            <div className="beneath">
              {stage && text ? (
                <CellOrNote
                  key={`${open.id} ${stage.language} ${text.place} ${text.key}`}
                  me={me}
                  stage={stage}
                  text={text}
                  tables={tables.data ?? []}
                  onSay={setSaid}
                  onClose={unchoose}
                />
              ) : (
                <div className="overview">
                  <SceneFindings
                    findings={findingsNow(
                      played.data,
                      findings.data?.found.filter((one) => one.scene === open.id) ?? [],
                    )}
                    more={findings.data?.more ?? false}
                    measured={played.data.stages.every(({ font }) => font)}
                    onChoose={(found) => {
                      setSide(found.language);
                      const side = now.includes(found.language) ? now : [found.language, ...now].slice(0, MOST);
                      const list = played.data.choices.find((one) => one.list && one.place === found.place);
                      const choose = list ? chosenWith(query, found.place, found.key) : query.getAll("choose");
                      setQuery(changed({ choose, in: side, asked: [], at: [String(found.place)] }), { replace: true });
                    }}
                  />
                  <Glance
                    product={product}
                    scene={open.id}
                    counts={counts}
                    after={!played.isFetching}
                    onLanguage={(tag) => switchTo({ in: [tag], asked: [] })}
                  />
                </div>
              )}
            </div>
          )}
        </div>
      )}
      {removing && open && (
        <Confirm
          title={t("rehearsal.remove")}
          words={t("rehearsal.removeWords", { name: open.name })}
          action={t("rehearsal.remove")}
          onYes={() => void remove(open)}
          onNo={() => setRemoving(false)}
        />
      )}
      <Snackbar
        open={(said || told || "") !== ""}
        message={said || told}
        onClose={(_, why) => {
          // Whoever clicks elsewhere is on the way there.
          if (why === "clickaway") return;
          setSaid("");
          if (told) void navigate({ search: query.toString() }, { replace: true, state: null });
        }}
        autoHideDuration={12_000}
      />
    </Frame>
  );
}

/** The place that an address names, on the stage of a language. */
function chosenIn(query: URLSearchParams, language: string): Chosen | null {
  const place = Number(query.get("at"));
  return Number.isInteger(place) && place > 0 ? { language, place } : null;
}

function Failure({ sentence, onAgain }: { sentence: string; onAgain: () => void }) {
  return (
    <div className="empty">
      <Alert severity="error" action={<Button onClick={onAgain}>{t("retry")}</Button>}>
        {sentence}
      </Alert>
    </div>
  );
}

/** What a product is seen in: a device that is held upright or on its side, a window of some width. */
function Within({ kind, within, children }: { kind: string; within: string; children: ReactNode }) {
  if (kind === "site" && /^\d{3,4}$/.test(within)) {
    return (
      <div className="window" style={{ maxInlineSize: `${within}px` }}>
        {children}
      </div>
    );
  }
  return <div className={kind === "app" && within ? `device ${within}` : undefined}>{children}</div>;
}

/** The cell of a text where it can be changed here; else what there is to say about it. */
function CellOrNote(props: {
  me: Person;
  stage: Schemas["Stage"];
  text: Schemas["PlaceText"];
  tables: Schemas["TableReply"][];
  onSay: (sentence: string) => void;
  onClose: () => void;
}) {
  const { stage, text, tables } = props;
  const table = tables.find(({ slug }) => slug === text.table);
  const language = table?.languages.find((one) => one.language.tag === stage.language);
  return table && language && text.entry ? (
    <SceneCell {...props} entry={text.entry} table={table} language={language} />
  ) : (
    <div className="scenecell">
      <PlaceNote {...props} />
    </div>
  );
}
