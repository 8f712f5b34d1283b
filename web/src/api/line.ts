/** Whether the server, and the database behind it, answer. Told by every request; while they do not, a look now and then finds out when they do again. */

const LOOKS_EVERY_MS = 2_000;

type Listener = (up: boolean) => void;

let up = true;
let looking: ReturnType<typeof setInterval> | undefined;
const listeners = new Set<Listener>();

/** Whether the last request was answered. */
export function lineIsUp(): boolean {
  return up;
}

/** Hears when the line goes down and when it is there again. */
export function subscribeToLine(listener: Listener): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}

/** A request was answered. */
export function answered(): void {
  if (up) return;
  up = true;
  clearInterval(looking);
  looking = undefined;
  for (const listener of listeners) listener(true);
}

/** A request was not answered, or only to say that nothing can be done just now; `look` is asked for until one is. */
export function notAnswered(look: () => Promise<unknown>): void {
  if (!up) return;
  up = false;
  looking = setInterval(() => {
    look().catch(() => undefined);
  }, LOOKS_EVERY_MS);
  for (const listener of listeners) listener(false);
}
