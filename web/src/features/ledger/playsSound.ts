import { assetKind } from "../../asset/assets";
import { playOrStop } from "../../asset/playing";
import type { RowStore } from "../../sheet/rowStore";
import { MAIN } from "../../text/shapes";

/** Plays the sound of a cell, or of the source where there is no language, or stops it; false where there is none. */
export function playsSound(store: RowStore, id: number, tag: string | null): boolean {
  const row = store.row(id);
  if (row?.shape !== "asset") return false;
  const cell = tag === null ? undefined : store.cell(id, tag);
  const forms = tag === null ? row.sourceForms : (cell?.forms ?? cell?.offers[0]?.forms);
  if (forms?.file === undefined || assetKind(forms[MAIN]) !== "sound") return false;
  playOrStop(forms.file);
  return true;
}
