import { unzipSync } from "fflate";
import type { Dropped } from "./uploading";

const SCENE = /\.(svg|png|jpe?g|webp)$/i;
/** What file managers put beside the files of an archive. */
const BESIDE = /(^|\/)(__MACOSX\/|\._|\.DS_Store$|Thumbs\.db$|desktop\.ini$)/i;
/** Larger archives are looked at by the server. */
const LARGEST_ARCHIVE = 40 * 1024 * 1024;

/** Whether files hold no texts but how screens look: drawings, pictures, and archives of nothing else. */
export async function onlyScenes(files: Dropped[]): Promise<boolean> {
  if (files.length === 0) return false;
  for (const { path, file } of files) {
    if (/\.zip$/i.test(path)) {
      if (!(await holdsOnlyScenes(file))) return false;
    } else if (!SCENE.test(path)) {
      return false;
    }
  }
  return true;
}

async function holdsOnlyScenes(archive: File): Promise<boolean> {
  if (archive.size > LARGEST_ARCHIVE) return false;
  const names: string[] = [];
  try {
    // Only the names are read; nothing is unpacked.
    unzipSync(new Uint8Array(await archive.arrayBuffer()), {
      filter: ({ name }) => {
        if (!name.endsWith("/") && !BESIDE.test(name)) names.push(name);
        return false;
      },
    });
  } catch {
    // No archive: the server says what is wrong with it.
    return false;
  }
  return names.length > 0 && names.every((name) => SCENE.test(name));
}
