import type { Schemas } from "../../api/client";
import type { Options } from "./useIntake";

export type SetChoice = Schemas["SetChoice"];
export type FileChoice = Schemas["FileChoice"];
type File = Schemas["FileReply"];

/** What holds about a file now, to be sent back with a change. Format and character set are found out unless somebody says them. */
export function choiceOf(file: File): FileChoice {
  return { path: file.path, language: file.language, source: file.source, leftOut: file.leftOut };
}

/** The languages that a set may be written in: those of its files, the present source first. */
export function sourceTags(files: File[]): string[] {
  return [...new Set(files.flatMap((file) => (file.language && !file.leftOut ? [file.language] : [])))];
}

/** The set written in another language: its file holds the sources, all others follow. */
export function withSource(options: Options, files: File[], tag: string): SetChoice {
  const leads = files.find((file) => file.language === tag && !file.leftOut);
  return {
    options: { ...options, source: tag },
    files: files
      .filter((file) => file.source || file === leads)
      .map((file) => ({ ...choiceOf(file), source: file === leads })),
  };
}
