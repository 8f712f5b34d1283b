import { IconButton } from "@mui/material";
import { Link } from "react-router";
import { assetAddress, assetKind } from "../../asset/assets";
import { SoundShown } from "../../asset/SoundShown";
import { stepsSaid, type Schemas } from "../../api/client";
import { ledgerAt } from "../../scope/scope";
import { t } from "../../words/words";
import { sceneFindingSaid } from "../scenes";

/** What stands at a place that was chosen, how it came there, what is wrong with it, and the way to it in the ledger. */
export function PlaceNote({
  stage,
  text,
  onClose,
}: {
  stage: Schemas["Stage"];
  text: Schemas["PlaceText"];
  onClose: () => void;
}) {
  return (
    <section className="note" aria-label={t("rehearsal.place")}>
      <h2>
        {text.key}
        <IconButton size="small" aria-label={t("rehearsal.closePlace")} onClick={onClose}>
          ×
        </IconButton>
      </h2>
      {text.asset && <SoundOrName asset={text.asset} />}
      {text.lines.length > 0 && (
        <p lang={text.from ?? undefined} dir="auto">
          {text.lines.join(" ")}
        </p>
      )}
      {text.steps.length > 0 && <p className="soft">{stepsSaid(text.steps)}</p>}
      {text.findings.map((finding, i) => (
        <p key={i} className={finding.wrong ? "wrong" : "mind"}>
          {sceneFindingSaid(finding)}
        </p>
      ))}
      {text.table && (
        <Link
          to={`${ledgerAt({ tables: [text.table], languages: stage.pretend ? [] : [stage.language] })}&entry=${text.entry}`}
        >
          {t("rehearsal.open")}
        </Link>
      )}
    </section>
  );
}

/** A sound is played; a picture is seen in the scene, and has its name here. */
function SoundOrName({ asset }: { asset: Schemas["AssetShown"] }) {
  return assetKind(asset.name) === "sound" ? (
    <SoundShown file={String(asset.file)} name={asset.name} facts={undefined} />
  ) : (
    <p>
      <a href={assetAddress(asset.file)}>{asset.name}</a>
    </p>
  );
}
