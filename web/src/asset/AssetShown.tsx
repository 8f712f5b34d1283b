import type { ReactNode } from "react";
import type { Forms } from "../text/shapes";
import { MAIN } from "../text/shapes";
import { assetAddress, assetKind, factsWords, type Facts } from "./assets";
import { SoundShown } from "./SoundShown";
import "./asset.css";

interface Props {
  forms: Forms;
  facts: Record<string, Facts> | undefined;
}

/** A picture or sound in a line of the ledger: small, with its name unless that says nothing. */
export function AssetInLine({ forms, facts, nameless = false }: Props & { nameless?: boolean }) {
  const name = forms[MAIN] ?? "";
  const file = forms.file;
  if (file === undefined) return name;
  const known = facts?.[file];
  const kind = assetKind(name);
  return (
    <span className="assetline" title={known ? `${name} · ${factsWords(known)}` : name}>
      {kind === "picture" && <img className="thumb" src={assetAddress(file)} alt="" loading="lazy" />}
      {kind === "sound" && <SoundShown file={file} name={name} facts={known} inGrid />}
      {!nameless && <bdi className="assetname">{name}</bdi>}
    </span>
  );
}

/** The same with room around: as large as fits, what it is, and its file to be opened. */
export function AssetLarge({ forms, facts, children }: Props & { children?: ReactNode }) {
  const name = forms[MAIN] ?? "";
  const file = forms.file ?? "";
  const known = facts?.[file];
  const kind = assetKind(name);
  return (
    <div className="told assetlarge">
      {kind === "picture" && <img src={assetAddress(file)} alt={name} />}
      {kind === "sound" && <SoundShown file={file} name={name} facts={known} />}
      <a href={assetAddress(file)} target="_blank" rel="noreferrer">
        <bdi>{name}</bdi>
      </a>
      {known && <small className="soft">{factsWords(known)}</small>}
      {children}
    </div>
  );
}
