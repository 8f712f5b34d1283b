/** The browser's store, which may be damaged, full, or closed to us; none of that stops anything. */

type Store = () => Storage;

let refusing = false;
const listeners = new Set<() => void>();

function told(now: boolean): void {
  if (refusing === now) return;
  refusing = now;
  for (const listener of listeners) listener();
}

/** Whether the store took nothing more when it was last written to. */
export function isRefusing(): boolean {
  return refusing;
}

/** Hears when that changes. */
export function subscribeToRefusing(listener: () => void): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}

/** What is kept under a name, when it is JSON of the right shape; what is damaged counts as nothing, and stays where it is. */
export function readKept<T>(store: Store, name: string, right: (kept: unknown) => kept is T): T | null {
  try {
    const kept: unknown = JSON.parse(store().getItem(name) ?? "null");
    return right(kept) ? kept : null;
  } catch {
    // Damaged, or closed to us: the same as nothing.
    return null;
  }
}

/** Keeps a value; whether the store took it. */
export function writeKept(store: Store, name: string, value: unknown): boolean {
  try {
    store().setItem(name, JSON.stringify(value));
    told(false);
    return true;
  } catch {
    // Full, or closed to us. The page goes on, and says that a reload would lose what is not saved.
    told(true);
    return false;
  }
}

/** Drops what is kept under a name. */
export function dropKept(store: Store, name: string): void {
  try {
    store().removeItem(name);
  } catch {
    told(true);
  }
}

/** All names that begin like that. */
export function namesKept(store: Store, prefix: string): string[] {
  try {
    return Object.keys(store()).filter((name) => name.startsWith(prefix));
  } catch {
    return [];
  }
}

export const isNumber = (kept: unknown): kept is number => typeof kept === "number";
export const isString = (kept: unknown): kept is string => typeof kept === "string";
export const isBoolean = (kept: unknown): kept is boolean => typeof kept === "boolean";

/** Across tabs, and for this one alone. */
export const everyTab: Store = () => window.localStorage;
export const thisTab: Store = () => window.sessionStorage;
