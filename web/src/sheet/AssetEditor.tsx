import { Button } from "@mui/material";
import { useEffect, useRef, useState } from "react";
import { ask, sentenceOf, type Schemas } from "../api/client";
import { t } from "../words/words";
import { assetAddress, assetKind } from "../asset/assets";
import type { EditEnd } from "./ending";
import { MAIN, type Forms } from "../text/shapes";

const LARGEST = 20 * 1024 * 1024;

/** Stores a file as an asset; the forms of a text that names it. */
export async function storeAsset(file: File): Promise<Forms> {
  if (file.size > LARGEST) throw new Error(t("asset.tooLarge", { name: file.name }));
  const stored = await ask<Schemas["AssetReply"]>(`/api/assets?name=${encodeURIComponent(file.name)}`, {
    method: "POST",
    bytes: file,
  });
  return { [MAIN]: stored.name, file: String(stored.file) };
}

interface Props {
  label: string;
  /** The file that is there now. */
  now: Forms;
  onEnd: (forms: Forms, end: EditEnd) => void;
}

/** What opens in a cell of an asset: a file to choose, put forward as soon as it is stored. */
export function AssetEditor({ label, now, onEnd }: Props) {
  const [said, setSaid] = useState("");
  const [storing, setStoring] = useState(false);
  const button = useRef<HTMLButtonElement>(null);
  const input = useRef<HTMLInputElement>(null);
  useEffect(() => button.current?.focus(), []);
  const choose = (file: File | undefined) => {
    if (!file) return;
    setSaid(t("asset.storing", { name: file.name }));
    setStoring(true);
    storeAsset(file)
      .then((forms) => onEnd(forms, "put-forward"))
      .catch((failure: unknown) => setSaid(sentenceOf(failure)))
      .finally(() => setStoring(false));
  };
  return (
    <div
      className="editor asset"
      onKeyDown={(event) => {
        event.stopPropagation();
        if (event.key === "Escape") onEnd(now, "leave");
      }}
      onBlur={(event) => {
        // The dialog of the browser that chooses a file takes the focus nowhere, and a file that is being stored is waited for.
        const to = event.relatedTarget;
        if (!storing && to !== null && !event.currentTarget.contains(to)) onEnd(now, "blur");
      }}
    >
      {assetKind(now[MAIN]) === "picture" && (
        <img className="thumb" src={assetAddress(now.file ?? "")} alt={now[MAIN]} />
      )}
      <Button ref={button} size="small" variant="outlined" aria-label={label} onClick={() => input.current?.click()}>
        {t(now.file ? "asset.replace" : "asset.choose")}
      </Button>
      <span role="status">{said}</span>
      <input
        ref={input}
        type="file"
        className="visually-hidden"
        tabIndex={-1}
        aria-label={t("asset.choose")}
        onChange={(event) => choose(event.target.files?.[0])}
      />
    </div>
  );
}
