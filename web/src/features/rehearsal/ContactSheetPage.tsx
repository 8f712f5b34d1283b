import { Alert, Button, Snackbar } from "@mui/material";
import { zipSync, type Zippable } from "fflate";
import { useRef, useState } from "react";
import { Link, useParams, useSearchParams } from "react-router";
import { sentenceOf, type Schemas } from "../../api/client";
import { Frame } from "../../desk/Frame";
import { Choice, Choices, Picker } from "../../parts/Picker";
import { useProducts } from "../../scope/useTables";
import { nameOfTag, t } from "../../words/words";
import {
  nameOfStage,
  sceneFindingSaid,
  StageShown,
  fontUrl,
  useManyPlayed,
  useScenes,
  useScenesFollow,
} from "../scenes";
import { dataUrl, fileName, pngOf, save, svgFile } from "./pictureFile";
import { PRETEND } from "./playing";
import "./contactsheet.css";

/** As many findings as are told under a small picture. */
const TOLD = 3;

/** All scenes of a product in a language, or one scene in all languages, small and with what is found: for the screen, for paper, and as pictures. */
export function ContactSheetPage() {
  const { slug = "" } = useParams();
  const [query, setQuery] = useSearchParams();
  const products = useProducts();
  const product = products.data?.find((one) => one.slug === slug);
  const scenes = useScenes(slug);
  useScenesFollow();
  const [said, setSaid] = useState("");
  const [saving, setSaving] = useState(false);
  const sheet = useRef<HTMLDivElement>(null);
  const only = scenes.data?.find(({ id }) => String(id) === query.get("scene"));
  const own = product?.languages.map(({ language }) => language.tag) ?? [];
  const language = query.get("in") ?? product?.start ?? own[0] ?? "";
  const wanted = only ? [only.id] : (scenes.data ?? []).map(({ id }) => id);
  const { all, waiting, failure } = useManyPlayed(product ? slug : "", wanted, only ? own : language ? [language] : []);
  const savePictures = async () => {
    setSaving(true);
    try {
      const fonts = new Map<number, Promise<string>>();
      const pictures: Zippable = {};
      const drawn = [...(sheet.current?.querySelectorAll<SVGSVGElement>("figure svg") ?? [])];
      for (const [at, svg] of drawn.entries()) {
        const one = all[at];
        if (!one) continue;
        const { font } = one.stage;
        if (font && !fonts.has(font)) fonts.set(font, fontOf(slug, font));
        const data = font ? await fonts.get(font) : undefined;
        const { width, height } = one.scene;
        const file = svgFile(svg, width, height, font && data ? { family: `scene-${font}`, data } : null);
        const picture = await pngOf(file, width, height);
        pictures[`${fileName(one.scene.name, one.stage.language)}.png`] = new Uint8Array(await picture.arrayBuffer());
      }
      // Pictures are packed already.
      const packed = zipSync(pictures, { level: 0 });
      save(
        new Blob([packed as Uint8Array<ArrayBuffer>], { type: "application/zip" }),
        `${fileName(slug, only ? only.name : language)}.zip`,
      );
    } catch (wrong) {
      setSaid(sentenceOf(wrong));
    } finally {
      setSaving(false);
    }
  };
  const pick = (name: string, value: string) => setQuery(new URLSearchParams({ [name]: value }), { replace: true });
  return (
    <Frame
      title={
        <h1 className="scopeline">
          {t("sheet.of", { product: product?.name ?? slug })}{" "}
          <Picker label={t("rehearsal.scenes")} words={only ? only.name : t("sheet.allScenes")}>
            {(close) => (
              <Choices label={t("rehearsal.scenes")}>
                <Choice
                  words={t("sheet.allScenes")}
                  chosen={!only}
                  onChoose={() => {
                    close();
                    pick("in", language);
                  }}
                />
                {scenes.data?.map(({ id, name }) => (
                  <Choice
                    key={id}
                    words={name}
                    chosen={only?.id === id}
                    onChoose={() => {
                      close();
                      pick("scene", String(id));
                    }}
                  />
                ))}
              </Choices>
            )}
          </Picker>
          {t("rehearsal.in")}{" "}
          <Picker label={t("settings.language")} words={only ? t("sheet.allLanguages") : nameOfTag(language)}>
            {(close) => (
              <Choices label={t("settings.language")}>
                {[...own, ...PRETEND].map((tag) => (
                  <Choice
                    key={tag}
                    words={nameOfTag(tag)}
                    more={tag}
                    chosen={!only && language === tag}
                    onChoose={() => {
                      close();
                      pick("in", tag);
                    }}
                  />
                ))}
              </Choices>
            )}
          </Picker>
        </h1>
      }
      aside={
        <>
          <Button size="small" variant="outlined" component={Link} to={`/rehearsal/${slug}`}>
            {t("sheet.back")}
          </Button>
          <Button
            size="small"
            variant="outlined"
            disabled={saving || all.length === 0}
            onClick={() => void savePictures()}
          >
            {t(saving ? "sheet.saving" : "sheet.pictures")}
          </Button>
          <Button size="small" variant="outlined" disabled={all.length === 0} onClick={() => window.print()}>
            {t("sheet.print")}
          </Button>
        </>
      }
    >
      <div className="contactsheet" ref={sheet} tabIndex={0} role="region" aria-label={t("rehearsal.sheet")}>
        {failure && <Alert severity="error">{sentenceOf(failure)}</Alert>}
        {!failure && scenes.data?.length === 0 && <p className="soft">{t("rehearsal.none")}</p>}
        {!failure && waiting && all.length === 0 && <p className="soft">{t("ledger.loading")}</p>}
        {all.map(({ scene, stage }) => (
          <Small key={`${scene.id} ${stage.language}`} product={slug} scene={scene} stage={stage} />
        ))}
      </div>
      <Snackbar open={said !== ""} message={said} onClose={() => setSaid("")} autoHideDuration={12_000} />
    </Frame>
  );
}

async function fontOf(product: string, font: number): Promise<string> {
  const reply = await fetch(fontUrl(product, font));
  if (!reply.ok) throw new Error(t("sheet.noFont"));
  return dataUrl(await reply.blob());
}

/** A scene in a language with its first findings under it; it leads to where it is rehearsed. */
function Small({ product, scene, stage }: { product: string; scene: Schemas["Played"]; stage: Schemas["Stage"] }) {
  const found = stage.texts.flatMap((text) => text.findings.map((finding) => ({ text, finding })));
  const wrong = found.filter(({ finding }) => finding.wrong);
  return (
    <div className={wrong.length > 0 ? "small bad" : "small"}>
      <StageShown
        product={product}
        scene={scene}
        stage={stage}
        caption={
          <>
            <Link to={`/rehearsal/${product}/${scene.id}?in=${stage.language}`}>
              {scene.name} · {nameOfStage(stage)}
            </Link>
            <span className={wrong.length > 0 ? "wrong" : "soft"}>
              {wrong.length > 0
                ? t("rehearsal.wrong", { n: wrong.length })
                : t(stage.font ? "rehearsal.fine" : "rehearsal.notMeasured")}
            </span>
          </>
        }
      />
      <ul>
        {[...wrong, ...found.filter(({ finding }) => !finding.wrong)].slice(0, TOLD).map(({ text, finding }, at) => (
          <li key={at}>
            <code>{text.key}</code> {sceneFindingSaid(finding)}
          </li>
        ))}
        {found.length > TOLD && <li>{t("sheet.more", { n: found.length - TOLD })}</li>}
      </ul>
    </div>
  );
}
