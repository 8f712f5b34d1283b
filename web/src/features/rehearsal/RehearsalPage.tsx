import { Alert, Button, CircularProgress, Snackbar, TextField } from "@mui/material";
import { useRef, useState } from "react";
import { Link, useLocation, useNavigate, useParams, useSearchParams } from "react-router";
import { ask, sentenceOf, type Schemas } from "../../api/client";
import { Frame } from "../../desk/Frame";
import { Choice, Choices, Picker } from "../../parts/Picker";
import { useProducts } from "../../scope/useTables";
import type { Person } from "../../session/useSession";
import { listed, t } from "../../words/words";
import { PlaceNote } from "./PlaceNote";
import { SceneFindings } from "./SceneFindings";
import { StageShown } from "./StageShown";
import { usePlayed, useScenes, useScenesFollow } from "./useScenes";
import "./rehearsal.css";

const PLAYS = ["written", "settled", "keys"] as const;
const PRETEND = ["en-XA", "ar-XB"] as const;
const MOST = 4;

/** A product as its users will see it: its scenes in one to four languages, with what is wrong at their places. */
export function RehearsalPage({ me }: { me: Person }) {
  const { slug = "", scene = "" } = useParams();
  const [query, setQuery] = useSearchParams();
  const navigate = useNavigate();
  const products = useProducts();
  const product = products.data?.find((one) => one.slug === slug) ?? (slug ? undefined : products.data?.[0]);
  const scenes = useScenes(product?.slug ?? "");
  const again = useScenesFollow();
  const open = scenes.data?.find(({ id }) => String(id) === scene) ?? (scene ? undefined : scenes.data?.[0]);
  const played = usePlayed(product?.slug ?? "", open?.id, query.toString());
  const [chosen, setChosen] = useState<{ language: string; place: number } | null>(null);
  // A new scene has another address, and so another page: what was left out of it is told there.
  const told = (useLocation().state as { said?: string } | null)?.said;
  const [said, setSaid] = useState(told ?? "");
  const file = useRef<HTMLInputElement>(null);
  const shown = query.getAll("in");
  const at = (to: string, id?: number) =>
    `/rehearsal/${to}${id ? `/${id}` : ""}${query.size > 0 ? `?${query.toString()}` : ""}`;
  const change = (name: string, values: string[]) => {
    const next = new URLSearchParams(query);
    next.delete(name);
    for (const value of values) next.append(name, value);
    setQuery(next, { replace: true });
  };
  const languages = [
    ...(product?.languages ?? []).map(({ language }) => ({ tag: language.tag, name: language.englishName })),
    ...PRETEND.map((tag) => ({
      tag,
      name: t(tag === "ar-XB" ? "rehearsal.pretend.turned" : "rehearsal.pretend.longer"),
    })),
  ];
  const now = shown.length > 0 ? shown : (played.data?.stages.map(({ language }) => language) ?? []);
  const add = async (drawing: File) => {
    const name = drawing.name.replace(/\.svg$/i, "");
    const known = scenes.data?.find((one) => one.name.toLowerCase() === name.toLowerCase());
    try {
      const { scene: added, leftOut } = await ask<Schemas["SceneAdded"]>(
        `/api/products/${product?.slug ?? ""}/scenes?name=${encodeURIComponent(name)}${known ? `&replaces=${known.version}` : ""}`,
        { method: "POST", bytes: drawing },
      );
      const words = [t("rehearsal.added", { name: added.name, n: added.places }), ...leftOut].join(" ");
      setSaid(words);
      void navigate(at(product?.slug ?? "", added.id), { state: { said: words } });
    } catch (failure) {
      setSaid(sentenceOf(failure));
    } finally {
      again();
    }
  };
  const failure = (products.data ? null : products.error) ?? (scenes.data ? null : scenes.error) ?? played.error;
  const note = chosen && played.data?.stages.find(({ language }) => language === chosen.language);
  return (
    <Frame
      title={
        product && (
          <h1 className="scopeline">
            {t("rehearsal.of")}{" "}
            <Picker label={t("products.product")} words={product.name}>
              {(close) => (
                <Choices label={t("products.product")}>
                  {products.data?.map((one) => (
                    <Choice
                      key={one.slug}
                      words={one.name}
                      chosen={one.slug === product.slug}
                      onChoose={() => {
                        close();
                        void navigate(`/rehearsal/${one.slug}`);
                      }}
                    />
                  ))}
                </Choices>
              )}
            </Picker>
            {t("rehearsal.in")}{" "}
            <Picker
              label={t("rehearsal.languages")}
              words={listed(now.map((tag) => languages.find((one) => one.tag === tag)?.name ?? tag)) || "…"}
            >
              {(close) => (
                <Choices label={t("rehearsal.languages")}>
                  {languages.map(({ tag, name }) => (
                    <Choice
                      key={tag}
                      words={name}
                      more={tag}
                      chosen={now.includes(tag)}
                      onChoose={() => {
                        close();
                        change("in", [tag]);
                      }}
                      onAlso={() =>
                        change("in", now.includes(tag) ? now.filter((one) => one !== tag) : [...now, tag].slice(-MOST))
                      }
                    />
                  ))}
                </Choices>
              )}
            </Picker>
          </h1>
        )
      }
    >
      {failure ? (
        <div className="empty">
          <Alert severity="error" action={<Button onClick={again}>{t("retry")}</Button>}>
            {sentenceOf(failure)}
          </Alert>
        </div>
      ) : products.data && !product ? (
        <div className="empty">
          <h2>{t("rehearsal.noProduct")}</h2>
          <Link to="/products">{t("tabs.products")}</Link>
        </div>
      ) : !scenes.data ? (
        <div className="empty" role="status">
          <CircularProgress size={22} aria-label={t("ledger.loading")} />
        </div>
      ) : (
        <div className="rehearsal">
          <nav className="scenes" aria-label={t("rehearsal.scenes")}>
            {scenes.data.map((one) => (
              <Link
                key={one.id}
                to={at(product?.slug ?? "", one.id)}
                aria-current={one.id === open?.id ? "page" : undefined}
              >
                <b>{one.name}</b>
                <small className={one.unknown > 0 ? "wrong" : "soft"}>
                  {one.unknown > 0
                    ? t("rehearsal.unknown", { n: one.unknown })
                    : t("rehearsal.places", { n: one.places })}
                </small>
              </Link>
            ))}
            {me.coordinator && (
              <>
                <Button variant="outlined" size="small" onClick={() => file.current?.click()}>
                  {t("rehearsal.new")}
                </Button>
                <p className="soft">{t("rehearsal.newWords")}</p>
                <input
                  ref={file}
                  type="file"
                  accept=".svg,image/svg+xml"
                  hidden
                  aria-label={t("rehearsal.file")}
                  onChange={(event) => {
                    const [drawing] = event.target.files ?? [];
                    event.target.value = "";
                    if (drawing) void add(drawing);
                  }}
                />
              </>
            )}
          </nav>
          <div className="playing" tabIndex={0} role="region" aria-label={t("rehearsal.stage")}>
            {scene !== "" && !open ? (
              <p>{t("rehearsal.gone")}</p>
            ) : !open ? (
              <p className="soft">{t("rehearsal.none")}</p>
            ) : (
              played.data && (
                <>
                  <div className="stages">
                    {played.data.stages.map((stage) => (
                      <StageShown
                        key={stage.language}
                        product={product?.slug ?? ""}
                        scene={played.data}
                        stage={stage}
                        chosen={chosen?.language === stage.language ? chosen.place : 0}
                        onChoose={(place) => setChosen({ language: stage.language, place })}
                      />
                    ))}
                  </div>
                  <Values
                    key={open.id}
                    values={played.data.placeholders}
                    onValues={(values) =>
                      change(
                        "with",
                        Object.entries(values).map(([name, value]) => `${name}=${value}`),
                      )
                    }
                  />
                  <p className="plays">
                    {t("rehearsal.with")}
                    {PLAYS.map((one) => (
                      <button
                        key={one}
                        type="button"
                        className="picker"
                        aria-pressed={(query.get("play") ?? "written") === one}
                        onClick={() => change("play", [one])}
                      >
                        {t(`rehearsal.play.${one}`)}
                      </button>
                    ))}
                  </p>
                  <div className="under">
                    {note && chosen && <PlaceNote stage={note} place={chosen.place} />}
                    <SceneFindings scene={played.data} onChoose={(language, place) => setChosen({ language, place })} />
                  </div>
                </>
              )
            )}
          </div>
        </div>
      )}
      <Snackbar
        open={said !== ""}
        message={said}
        onClose={() => {
          setSaid("");
          if (told) void navigate(".", { replace: true, state: null });
        }}
        autoHideDuration={12_000}
      />
    </Frame>
  );
}

/** Values for the placeholders of a scene. They are sent when the field is left, or with Enter. */
function Values({
  values,
  onValues,
}: {
  values: Record<string, string>;
  onValues: (values: Record<string, string>) => void;
}) {
  const names = Object.keys(values);
  if (names.length === 0) return null;
  return (
    <div className="values" role="group" aria-label={t("rehearsal.values")}>
      {names.map((name) => (
        <TextField
          key={name}
          size="small"
          label={name}
          defaultValue={values[name]}
          slotProps={{ htmlInput: { maxLength: 100 } }}
          onBlur={(event) => {
            if (event.target.value !== values[name]) onValues({ ...values, [name]: event.target.value });
          }}
          onKeyDown={(event) => {
            if (event.key === "Enter") (event.target as HTMLElement).blur();
          }}
        />
      ))}
    </div>
  );
}
