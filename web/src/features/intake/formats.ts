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

/** Character sets that files are read in. */
export const CHARSETS = [
  "UTF-8",
  "UTF-16LE",
  "UTF-16BE",
  "windows-1252",
  "windows-1250",
  "windows-1251",
  "windows-1253",
  "windows-1254",
  "windows-1256",
  "windows-1257",
  "ISO-8859-1",
  "ISO-8859-2",
  "ISO-8859-15",
];
