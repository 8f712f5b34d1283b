import { hasWords } from "../../words/spoken";
import { t } from "../../words/words";
import type { Settings } from "./useDeliveries";

const TEXTS: Settings = {
  kind: "texts",
  format: "json",
  files: "each",
  pattern: "{tag}.{ext}",
  which: "visible",
  languages: [],
  texts: "settled",
  hole: "out",
  charset: "utf-8",
  delimiter: "comma",
  guard: false,
  nested: false,
  ascii: false,
  prefix: "",
  namespace: "",
  numbers: false,
};

/** What a recipe of each kind begins as. */
export const BEGINNINGS = {
  texts: TEXTS,
  selectors: { ...TEXTS, kind: "selectors", format: "csv", files: "one", pattern: "languages.{ext}" },
  keys: { ...TEXTS, kind: "keys", format: "typescript", files: "one", pattern: "keys.{ext}" },
  assets: { ...TEXTS, kind: "assets", format: "files", pattern: "{tag}/{key}.{ext}" },
  fonts: { ...TEXTS, kind: "fonts", format: "files", pattern: "fonts/{tag}.{ext}" },
  wordbook: { ...TEXTS, kind: "wordbook", format: "tbx", files: "one", pattern: "wordbook.{ext}" },
} satisfies Record<string, Settings>;

const TEXT_FORMATS = [
  "csv",
  "json",
  "yaml",
  "properties",
  "android",
  "po",
  "mo",
  "xliff-1.2",
  "xliff-2",
  "xlsx",
  "ods",
  "tmx",
  "ledger-json",
];

/** Formats whose files hold several languages. */
export const TOGETHER = new Set(["csv", "xlsx", "ods", "tmx", "ledger-json"]);

export const FORMATS: Record<string, string[]> = {
  texts: TEXT_FORMATS,
  selectors: ["csv", "json"],
  keys: ["java", "typescript", "c"],
  assets: ["files"],
  fonts: ["files", "cut"],
  wordbook: ["tbx"],
};

export const CHARSETS = [
  "utf-8",
  "utf-8-bom",
  "utf-16le-bom",
  "windows-1250",
  "windows-1251",
  "windows-1252",
  "windows-1253",
  "windows-1254",
  "windows-1257",
  "iso-8859-1",
  "iso-8859-2",
  "iso-8859-15",
  "shift_jis",
  "gb18030",
  "us-ascii",
];

const TOLD_APART = /\{(tag_?|tag-r|language|selector)\}/;

/** The same recipe of texts in other files: names tell them apart, and files in place keep their formats and paths. */
export function inFiles(settings: Settings, files: string): Settings {
  if (files === "place")
    return { ...settings, files, format: "files", charset: "utf-8", pattern: "{path}", prefix: "" };
  const { format, pattern } = settings.files === "place" ? { ...settings, ...TEXTS } : settings;
  if (files === "one") {
    return {
      ...settings,
      files,
      format: TOGETHER.has(format) ? format : "csv",
      pattern: pattern.replace(/\{tag\}/g, "texts"),
    };
  }
  return { ...settings, files, format, pattern: TOLD_APART.test(pattern) ? pattern : "{tag}.{ext}" };
}

/** What a format is called. */
export function formatName(format: string): string {
  const key = `recipeFormat.${format}`;
  return hasWords(key) ? t(key) : format;
}

/** What a recipe makes, in a line. */
export function recipeSaid(settings: Settings): string {
  const format = formatName(settings.format);
  if (settings.kind !== "texts") return t(`recipe.said.${settings.kind as "keys"}`, { format });
  return t(`recipe.said.${settings.files as "each"}`, { format });
}
