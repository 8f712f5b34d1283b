import { useSyncExternalStore } from "react";
import { assetAddress } from "./assets";

/** What is heard now: one sound at a time. */
interface Playing {
  file: string | null;
  /** How far it is, 0 to 1. */
  far: number;
  /** The file that could not be played. */
  failed: string | null;
}

let now: Playing = { file: null, far: 0, failed: null };
let audio: HTMLAudioElement | null = null;
const listeners = new Set<() => void>();

function become(next: Partial<Playing>) {
  now = { ...now, ...next };
  listeners.forEach((listener) => listener());
}

/** Plays a sound from its beginning, or stops it when it is the one that is heard. */
export function playOrStop(file: string) {
  const same = now.file === file;
  audio?.pause();
  audio = null;
  become({ file: null, far: 0, failed: null });
  if (same) return;
  const heard = new Audio(assetAddress(file));
  audio = heard;
  const mine = () => audio === heard;
  heard.ontimeupdate = () => {
    if (mine() && heard.duration > 0) become({ far: heard.currentTime / heard.duration });
  };
  heard.onended = () => mine() && become({ file: null, far: 0 });
  heard.onerror = () => mine() && become({ file: null, far: 0, failed: file });
  become({ file });
  heard.play().catch(() => mine() && become({ file: null, far: 0, failed: file }));
}

/** What is heard now, followed. */
export function usePlaying(): Playing {
  return useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => now,
  );
}
