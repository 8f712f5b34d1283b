import type { Schemas } from "../../api/client";
import { formsOf, MAIN, sameForms, type Forms } from "../../text/shapes";

export type CellView = Schemas["CellView"];
export type Change = Omit<Schemas["CellChange"], "version" | "meaningConfirmed"> & { meaningConfirmed?: boolean };

/** What a person saw of a cell when a change of it began: a version that the server told, or what one's own earlier change makes of it. */
export interface Seen {
  /** Unknown while the entry has not arrived. */
  version: number | undefined;
  /** The change of one's own that was on its way then; its outcome counts, and the version does not. */
  after: string | null;
}

/** A change that is to be sent. */
export interface Wanted {
  id: string;
  change: Change;
  seen: Seen;
}

/** A text that is neither typed nor sent any more: it waits for its person, with the reason. */
export interface Kept {
  forms: Forms;
  why: string;
  /** The cell as somebody else left it, where that is why. */
  theirs?: CellView;
}

/**
 * What one cell still owes the server, in this tab: what is being typed, what waits for its person, and changes in the order in which they were made,
 * of which the first is on its way or is tried again. Every function gives a new slip and changes none.
 */
export interface Slip {
  open: { id: string; seen: Seen; forms: Forms | null } | null;
  kept: Kept | null;
  chain: Wanted[];
  head: "ready" | "sending" | "waiting";
  /** Why the first is tried again. */
  why: string;
  /** The last change that the server answered, and the version it made. */
  answered: { id: string; version: number | undefined } | null;
  /** Texts that were sent and never answered: the server may have them. */
  tried: Forms[];
}

export const EMPTY: Slip = { open: null, kept: null, chain: [], head: "ready", why: "", answered: null, tried: [] };

/** Whether nothing is left to do or to remember. */
export function isDone(slip: Slip): boolean {
  return !slip.open && !slip.kept && slip.chain.length === 0;
}

/** The text that a change brings; null when it brings none. */
export function formsOfChange({ text, forms }: Pick<Change, "text" | "forms">): Forms | null {
  return forms ?? (text === undefined ? null : { [MAIN]: text });
}

/** What somebody sees who begins to type now, knowing the cell at `version`. */
export function seenNow(slip: Slip, version: number | undefined): Seen {
  const last = slip.chain.at(-1);
  return last ? { version: undefined, after: last.id } : { version, after: null };
}

/** The version that counts as seen; undefined while one's own change is on its way, or when nothing is known. */
export function versionOf(slip: Slip, seen: Seen): number | undefined {
  if (seen.after === null) return seen.version;
  return slip.answered?.id === seen.after ? slip.answered.version : undefined;
}

/** An editor opens. */
export function opened(slip: Slip, id: string, seen: Seen): Slip {
  return { ...slip, open: { id, seen, forms: null } };
}

/** A letter was typed in the editor of that id; one that is not open any more types nothing. */
export function typed(slip: Slip, id: string, forms: Forms): Slip {
  return slip.open?.id === id ? { ...slip, open: { ...slip.open, forms } } : slip;
}

/** The editor of that id is left, and its text is what it was before. */
export function left(slip: Slip, id: string): Slip {
  return slip.open?.id === id ? { ...slip, open: null } : slip;
}

/** A text stays here for a reason. */
export function keeps(slip: Slip, id: string | null, kept: Kept): Slip {
  return { ...(id === null ? slip : left(slip, id)), kept };
}

/** What was kept is dropped. */
export function dropped(slip: Slip): Slip {
  return { ...slip, kept: null };
}

const WRITES: Change["action"][] = ["PENCIL", "PUT_FORWARD"];

/** Of two texts that one person wants in turn only the last is wanted, and so of two amendments of one offer; other answers are sent all, in their order. */
function overtakes(later: Change, earlier: Change): boolean {
  const sameOffer = later.action === "AMEND" && earlier.action === "AMEND" && later.offer === earlier.offer;
  return sameOffer || (WRITES.includes(later.action) && WRITES.includes(earlier.action));
}

/** A change is to be sent after those before it. A text overtakes texts that have not been answered, but never one that is on its way. */
export function wants(slip: Slip, wanted: Wanted): Slip {
  const text = formsOfChange(wanted.change);
  const next = { ...slip, chain: [...slip.chain], tried: [...slip.tried] };
  if (text) next.kept = null;
  let seen = wanted.seen;
  while (text) {
    const last = next.chain.at(-1);
    const onItsWay = next.chain.length === 1 && next.head === "sending";
    const forms = last && overtakes(wanted.change, last.change) ? formsOfChange(last.change) : null;
    if (!last || onItsWay || !forms) break;
    if (next.chain.length === 1 && next.head === "waiting") next.tried.push(forms);
    if (seen.after === last.id) seen = last.seen;
    next.chain.pop();
  }
  if (next.chain.length === 0) next.head = "ready";
  next.chain.push({ ...wanted, seen });
  return next;
}

/** The first goes on its way. */
export function sent(slip: Slip): Slip {
  return { ...slip, head: "sending" };
}

/** Nobody answered: it is tried again. */
export function unanswered(slip: Slip, why: string): Slip {
  return { ...slip, head: "waiting", why };
}

/** The server did it. */
export function answered(slip: Slip, version: number): Slip {
  const [first, ...chain] = slip.chain;
  if (!first) return slip;
  return { ...slip, chain, head: "ready", answered: { id: first.id, version }, tried: [] };
}

/** The server refused it, and the cell is as it was. Its text is kept, unless a newer one is on its way. */
export function refused(slip: Slip, why: string): Slip {
  const [first, ...chain] = slip.chain;
  if (!first) return slip;
  const forms = formsOfChange(first.change);
  const newer = chain.some(({ change }) => formsOfChange(change));
  return {
    ...slip,
    chain,
    head: "ready",
    answered: { id: first.id, version: versionOf(slip, first.seen) },
    kept: forms && !newer ? { forms, why } : slip.kept,
  };
}

/**
 * Somebody changed the cell first. What says the same arrived before; a text of one's own that was never answered arrived too, and the change is made
 * upon it. Otherwise both texts are shown, and nothing more is sent: all of it was made for a text that is not there any more.
 */
export function conflicted(slip: Slip, theirs: CellView, why: string): Slip {
  const [first] = slip.chain;
  if (!first) return slip;
  const forms = formsOfChange(first.change);
  if (forms && says(theirs, forms)) return answered(slip, theirs.version);
  if (slip.tried.some((one) => says(theirs, one))) {
    const again = { ...first, seen: { version: theirs.version, after: null } };
    return { ...slip, chain: [again, ...slip.chain.slice(1)], head: "ready", tried: [] };
  }
  const last = slip.chain.map(({ change }) => formsOfChange(change)).findLast((one) => one !== null);
  const stopped = { ...slip, chain: [], head: "ready" as const, tried: [], answered: null };
  // Whoever types on types for what was seen then, which the server has left behind.
  const open = slip.open ? { ...slip.open, seen: { version: versionOf(slip, first.seen), after: null } } : null;
  return { ...stopped, open, kept: last ? { forms: last, why, theirs } : slip.kept };
}

/** Whether a cell has a text, in force or on offer. */
function says(cell: CellView, forms: Forms): boolean {
  return [cell, ...cell.offers].some((one) => sameForms(formsOf(one.text, one.forms), forms));
}
