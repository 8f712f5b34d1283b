/** The formats that are read and written, those of spreadsheets first. */
export const FORMATS = [
  "csv",
  "xlsx",
  "ods",
  "po",
  "mo",
  "xliff-1.2",
  "xliff-2",
  "json",
  "yaml",
  "properties",
  "android",
  "tmx",
  "tbx",
  "ledger-json",
] as const;
