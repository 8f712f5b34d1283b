import { ask, sentenceOf, type Schemas } from "../../api/client";
import { goesOn } from "../../api/run";
import { t } from "../../words/words";
import { LARGEST_FILE } from "./useIntake";

/** A file with the path it has in what was dropped. */
export interface Dropped {
  path: string;
  file: File;
}

/** A file that did not come in, and why. */
export interface Refusal {
  file: string;
  why: string;
  /** Whether it can be taken in by itself after all. */
  readable?: boolean;
  /** Whether the server keeps it, so that somebody can say how it is read. */
  kept?: boolean;
}

/** What came of files that were dropped together. */
export interface Came {
  /** The number of the drop; null when nothing of it reached the server. */
  drop: number | null;
  intakes: number[];
  refused: Refusal[];
  /** How many pictures and sounds came along. */
  assets: number;
}

/** How far a drop is: files that have been sent, or looked at, of all. */
export interface Far {
  step: "sending" | "sorting";
  done: number;
  of: number;
  file: string;
}

type Drop = Schemas["DropReply"];

/** So many files travel at once: with slow replies one after the other would take minutes. */
const AT_ONCE = 4;
const POLL_MS = 400;

/** All files of a drop, those in folders too, in the order of their paths. */
export async function filesOf(transfer: DataTransfer): Promise<Dropped[]> {
  const entries = [...transfer.items].map((item) => item.webkitGetAsEntry()).filter((entry) => entry !== null);
  if (entries.length === 0) return [...transfer.files].map((file) => ({ path: file.name, file }));
  const found = await Promise.all(entries.map(filesIn));
  return found.flat().sort((one, other) => one.path.localeCompare(other.path));
}

async function filesIn(entry: FileSystemEntry): Promise<Dropped[]> {
  const path = entry.fullPath.replace(/^\//, "");
  if (entry.isFile) {
    const file = await new Promise<File>((done, failed) => (entry as FileSystemFileEntry).file(done, failed));
    return file.name.startsWith(".") ? [] : [{ path, file }];
  }
  const reader = (entry as FileSystemDirectoryEntry).createReader();
  const all: Dropped[] = [];
  // A reader gives some of a folder at a time, and nothing when it is done.
  for (;;) {
    const some = await new Promise<FileSystemEntry[]>((done, failed) => reader.readEntries(done, failed));
    if (some.length === 0) return all;
    all.push(...(await Promise.all(some.map(filesIn))).flat());
  }
}

/**
 * Brings files together to the server and has them sorted; one that is refused keeps none of the others.
 *
 * @param tell - called with how far it is
 * @throws what keeps all of them out: no right, no server
 */
export async function bringAll(files: Dropped[], tell: (far: Far) => void): Promise<Came> {
  const refused: Refusal[] = [];
  const small = files.filter(({ path, file }) => {
    if (file.size <= LARGEST_FILE) return true;
    const n = Math.floor(file.size / 1024 / 1024);
    refused.push({ file: path, why: t("intake.tooLarge", { file: path, n, limit: LARGEST_FILE / 1024 / 1024 }) });
    return false;
  });
  if (small.length === 0) return { drop: null, intakes: [], refused, assets: 0 };
  const { id } = await ask<Drop>("/api/drops", { method: "POST" });
  const left = [...small];
  let done = 0;
  const send = async () => {
    for (let next = left.shift(); next; next = left.shift()) {
      tell({ step: "sending", done, of: small.length, file: next.path });
      try {
        await ask<Drop>(`/api/drops/${id}/files?name=${encodeURIComponent(next.path)}`, {
          method: "POST",
          bytes: next.file,
        });
      } catch (failure) {
        refused.push({ file: next.path, why: sentenceOf(failure) });
      }
      done++;
    }
  };
  await Promise.all(Array.from({ length: AT_ONCE }, send));
  if (refused.length === files.length) return { drop: id, intakes: [], refused, assets: 0 };
  const sorted = await sort(id, tell);
  return {
    drop: id,
    intakes: sorted.intakes?.map((one) => one.id) ?? [],
    refused: [...refused, ...sorted.refused.map((one) => ({ ...one, kept: true }))],
    assets: sorted.assets,
  };
}

async function sort(id: number, tell: (far: Far) => void): Promise<Drop> {
  let drop = await ask<Drop>(`/api/drops/${id}/sort`, { method: "POST" });
  while (!drop.intakes) {
    if (drop.run && !goesOn(drop.run)) throw new Error(drop.run.message);
    tell({ step: "sorting", done: drop.run?.done ?? 0, of: drop.run?.total ?? 0, file: "" });
    await new Promise((wait) => setTimeout(wait, POLL_MS));
    drop = await ask<Drop>(`/api/drops/${id}`);
  }
  return drop;
}

/** How far a drop is, in words. */
export function farWords(far: Far): string {
  if (far.step === "sorting")
    return far.of > 0 ? t("intake.sorting", { at: far.done, of: far.of }) : t("intake.sortingAll");
  return far.of === 1
    ? t("intake.reading", { file: far.file })
    : t("intake.readingMany", { at: far.done + 1, of: far.of, file: far.file });
}
