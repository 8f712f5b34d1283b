import { Button, Checkbox, TextField, ToggleButton, ToggleButtonGroup } from "@mui/material";
import { useState } from "react";
import { assetAddress, assetKind, factsWords } from "../../asset/assets";
import { SoundShown } from "../../asset/SoundShown";
import { count, nameOfTag, t } from "../../words/words";
import { TagField } from "./TagField";
import type { AssetChoice, AssetFile, AssetSet, Decision } from "./useAssetSet";
import { useTyped } from "./useTyped";

const PAGE = 100;
const SHOWN = ["all", "out", "told"] as const;
type Shown = (typeof SHOWN)[number];

interface Props {
  set: AssetSet;
  busy: boolean;
  onFiles: (files: NonNullable<Decision["files"]>) => void;
}

/** What somebody said about a file already; the rest is what its name says. */
function choiceOf(file: AssetFile, change: Partial<AssetChoice>): AssetChoice {
  const said = file.said ? { key: file.key, language: file.language } : {};
  return { position: file.position, ...said, leftOut: undefined, ...change };
}

const nameless = (file: AssetFile) => file.leftOut && file.facts !== undefined && (!file.key || !file.language);

/** The files, one a row: what each is, and which entry and language it is for. */
export function AssetFiles({ set, busy, onFiles }: Props) {
  const [shown, setShown] = useState<Shown>("all");
  const [most, setMost] = useState(PAGE);
  const groups: Record<Shown, AssetFile[]> = {
    all: set.files,
    out: set.files.filter((file) => file.leftOut),
    told: set.files.filter((file) => (file.why && file.facts) || !file.facts || file.gone.length > 0),
  };
  const files = groups[shown];
  const asSources = () =>
    onFiles((now) =>
      now.filter(nameless).map((file) =>
        choiceOf(file, {
          key: file.key ?? file.path.replace(/\.[^./]*$/, ""),
          language: set.options.source,
          leftOut: false,
        }),
      ),
    );
  return (
    <>
      <div className="seeing">
        <ToggleButtonGroup
          size="small"
          exclusive
          value={shown}
          aria-label={t("assets.show")}
          onChange={(_, next: Shown | null) => {
            if (next) setShown(next);
          }}
        >
          {SHOWN.map((one) => (
            <ToggleButton key={one} value={one}>
              {t(`assets.show.${one}`, { n: count(groups[one].length) })}
            </ToggleButton>
          ))}
        </ToggleButtonGroup>
        {set.files.some(nameless) && (
          <Button size="small" disabled={busy} onClick={asSources}>
            {t("assets.asSources", { language: nameOfTag(set.options.source) })}
          </Button>
        )}
      </div>
      <table className="listed setfiles assetfiles">
        <thead>
          <tr>
            <th scope="col">{t("assets.goesIn")}</th>
            <th scope="col">{t("assets.is")}</th>
            <th scope="col">{t("assets.entry")}</th>
            <th scope="col">{t("set.language")}</th>
            <th scope="col">{t("assets.file")}</th>
          </tr>
        </thead>
        <tbody>
          {files.slice(0, most).map((file) => (
            <FileRow
              key={file.position}
              file={file}
              busy={busy}
              onFile={(change) =>
                onFiles((now) =>
                  now.filter((one) => one.position === file.position).map((one) => choiceOf(one, change(one))),
                )
              }
            />
          ))}
        </tbody>
      </table>
      {files.length > most && (
        <Button size="small" onClick={() => setMost(most + PAGE)}>
          {t("assets.showMore", { n: count(Math.min(PAGE, files.length - most)) })}
        </Button>
      )}
    </>
  );
}

function FileRow({
  file,
  busy,
  onFile,
}: {
  file: AssetFile;
  busy: boolean;
  onFile: (change: (now: AssetFile) => Partial<AssetChoice>) => void;
}) {
  const [ticked, setTicked] = useState<boolean | null>(null);
  const [wasBusy, setWasBusy] = useState(busy);
  if (wasBusy !== busy) {
    setWasBusy(busy);
    if (!busy) setTicked(null);
  }
  const name = file.path.slice(file.path.lastIndexOf("/") + 1);
  const key = useTyped(file.key ?? "", busy, (text) =>
    onFile((now) => ({ key: text, language: now.language, leftOut: undefined })),
  );
  return (
    <tr className={file.leftOut ? "out" : undefined}>
      <td>
        <Checkbox
          size="small"
          checked={ticked ?? !file.leftOut}
          disabled={!file.facts}
          slotProps={{ input: { "aria-label": t("assets.take", { file: file.path }) } }}
          onChange={(event) => {
            const leftOut = !event.target.checked;
            onFile(() => ({ leftOut }));
            setTicked(!leftOut);
          }}
        />
      </td>
      <td>
        <div className="assetis">
          {file.file !== undefined &&
            (assetKind(name) === "picture" ? (
              <img src={assetAddress(file.file)} alt="" loading="lazy" />
            ) : (
              <SoundShown file={String(file.file)} name={name} facts={file.facts} />
            ))}
          {file.facts && <small className="soft">{factsWords(file.facts)}</small>}
        </div>
      </td>
      <th scope="row">
        <TextField
          variant="standard"
          size="small"
          fullWidth
          disabled={!file.facts}
          slotProps={{ htmlInput: { "aria-label": t("assets.entryOf", { file: file.path }), className: "mono" } }}
          {...key}
        />
      </th>
      <td>
        <span className="tongue">
          <TagField
            tag={file.language ?? ""}
            label={t("assets.languageOf", { file: file.path })}
            busy={busy}
            disabled={!file.facts}
            onTag={(language) => onFile((now) => ({ key: now.key, language, leftOut: undefined }))}
          />
          <span className="soft">{file.language && nameOfTag(file.language)}</span>
        </span>
      </td>
      <td className="assetpath">
        <span className="mono" title={file.path}>
          {file.path}
        </span>
        {file.why && <div className={file.facts && !file.leftOut ? "wrong" : "soft"}>{file.why}</div>}
        {file.gone.map((sentence) => (
          <div key={sentence} className="soft">
            {sentence}
          </div>
        ))}
      </td>
    </tr>
  );
}
