import type { Schemas } from "../api/client";
import { count, t } from "../words/words";

export type Facts = Schemas["FactsReply"];

const PICTURE = /\.(png|jpe?g|webp|svg)$/i;
const SOUND = /\.(ogg|oga|opus|mp3|wav)$/i;
const KILO = 1024;

/** Whether a file of that name is seen, heard, or neither. */
export function assetKind(name: string | undefined): "picture" | "sound" | "other" {
  return PICTURE.test(name ?? "") ? "picture" : SOUND.test(name ?? "") ? "sound" : "other";
}

/** Where a stored file is. */
export function assetAddress(file: string | number): string {
  return `/api/assets/${file}`;
}

/** "12 KB". */
export function sizeWords(bytes: number): string {
  if (bytes < KILO) return t("asset.bytes", { n: bytes });
  return bytes < KILO * KILO
    ? t("asset.kilobytes", { n: count(Math.round(bytes / KILO)) })
    : t("asset.megabytes", { n: (bytes / KILO / KILO).toFixed(1) });
}

/** "0:02.4", as far as a sound takes no hours. */
export function lengthWords(milliseconds: number): string {
  const tenths = Math.round(milliseconds / 100);
  const minutes = Math.floor(tenths / 600);
  const seconds = (tenths % 600) / 10;
  return `${minutes}:${seconds < 10 ? "0" : ""}${seconds.toFixed(1)}`;
}

/** What a picture or sound is, in a line: kind, size in pixels or length, size in bytes. */
export function factsWords(facts: Facts): string {
  const measure =
    facts.milliseconds > 0
      ? lengthWords(facts.milliseconds)
      : facts.width > 0
        ? `${facts.width} × ${facts.height}`
        : "";
  return [facts.kind.toUpperCase(), measure, sizeWords(facts.bytes)].filter((part) => part !== "").join(" · ");
}
