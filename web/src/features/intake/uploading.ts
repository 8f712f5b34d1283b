import { ask, sentenceOf, type Schemas } from "../../api/client";
import { t } from "../../words/words";
import { LARGEST_FILE, type Intake } from "./useIntake";

/** A file with the path it has in what was dropped. */
export interface Dropped {
  path: string;
  file: File;
}

/** A file that did not come in, and why. */
export interface Refusal {
  file: string;
  why: string;
}

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
 * Uploads files one after the other; one that is refused keeps none of the others.
 *
 * @param tell - called before each with how many are done
 * @returns the numbers of the new intakes, and what was refused
 */
export async function uploadAll(
  files: Dropped[],
  tell: (done: number, name: string) => void,
): Promise<{ intakes: number[]; refused: Refusal[] }> {
  const intakes: number[] = [];
  const refused: Refusal[] = [];
  for (const [at, { path, file }] of files.entries()) {
    tell(at, path);
    if (file.size > LARGEST_FILE) {
      const n = Math.floor(file.size / 1024 / 1024);
      refused.push({ file: path, why: t("intake.tooLarge", { file: path, n, limit: LARGEST_FILE / 1024 / 1024 }) });
      continue;
    }
    const name = encodeURIComponent(path);
    try {
      if (/\.zip$/i.test(path)) {
        const reply = await ask<Schemas["DropReply"]>(`/api/intakes/archive?name=${name}`, {
          method: "POST",
          bytes: file,
        });
        intakes.push(...reply.intakes.map((intake) => intake.id));
        refused.push(...reply.refused);
      } else {
        intakes.push((await ask<Intake>(`/api/intakes?name=${name}`, { method: "POST", bytes: file })).id);
      }
    } catch (failure) {
      refused.push({ file: path, why: sentenceOf(failure) });
    }
  }
  return { intakes, refused };
}
