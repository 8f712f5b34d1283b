import { assetAddress } from "./assets";

/** So many bars show a sound. */
export const BARS = 48;

/** Longer ones would be decoded for nothing but a sketch. */
const LARGEST_BYTES = 3 * 1024 * 1024;
const AT_ONCE = 2;
const MOST_KEPT = 500;

const known = new Map<string, Promise<number[] | null>>();
const waiting: (() => void)[] = [];
let going = 0;

/** How loud a sound is from its beginning to its end, 0 to 1 in {@link BARS} steps; null where it cannot be told. Asked again it is known. */
export function waveform(file: string, bytes: number): Promise<number[] | null> {
  let found = known.get(file);
  if (!found) {
    found = bytes > LARGEST_BYTES || typeof OfflineAudioContext === "undefined" ? Promise.resolve(null) : inTurn(file);
    if (known.size >= MOST_KEPT) known.clear();
    known.set(file, found);
  }
  return found;
}

async function inTurn(file: string): Promise<number[] | null> {
  if (going >= AT_ONCE) await new Promise<void>((done) => waiting.push(done));
  going++;
  try {
    const reply = await fetch(assetAddress(file));
    if (!reply.ok) return null;
    const sound = await new OfflineAudioContext(1, 1, 22050).decodeAudioData(await reply.arrayBuffer());
    return bars(sound.getChannelData(0));
  } catch {
    // It is played all the same, or the player says that it cannot be.
    known.delete(file);
    return null;
  } finally {
    going--;
    waiting.shift()?.();
  }
}

/** The loudest sample of each step beside the loudest of all. */
export function bars(samples: Float32Array): number[] {
  const heights: number[] = [];
  for (let bar = 0; bar < BARS; bar++) {
    const to = Math.floor(((bar + 1) * samples.length) / BARS);
    let loudest = 0;
    for (let at = Math.floor((bar * samples.length) / BARS); at < to; at++) {
      loudest = Math.max(loudest, Math.abs(samples[at] ?? 0));
    }
    heights.push(loudest);
  }
  const most = Math.max(...heights);
  return most > 0 ? heights.map((height) => height / most) : heights;
}
