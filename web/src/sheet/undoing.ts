import { ask, Refused, type Schemas } from "../api/client";
import { readKept, thisTab, writeKept } from "./outbox/browserStore";
import { t } from "../words/words";

/** A change that can be taken back. */
export interface Done {
  /** The server's number of the change. */
  change: number;
  /** The entries it concerned, to be read again. */
  entries: number[];
  /** When it was made among the others of this page: replies come in any order, and the last that was done is taken back first. */
  order?: number;
}

const KEPT = "mellow.undo";
const MOST = 200;

interface Stacks {
  done: Done[];
  undone: Done[];
}

/** One's own last changes, to be taken back and done again one by one; they survive a reload of the page. */
class Undoing {
  #person = 0;
  #stacks: Stacks = { done: [], undone: [] };
  #order = 0;

  /** Says whose changes these are; another's are never taken back. */
  belongTo(person: number): void {
    if (this.#person === person || person === 0) return;
    this.#person = person;
    this.#stacks = readKept(thisTab, this.#name(), areStacks) ?? { done: [], undone: [] };
    this.#order = Math.max(0, ...this.#stacks.done.map((done) => done.order ?? 0));
  }

  /** The turn of a change that is made now, to be told when it is done. */
  next(): number {
    return ++this.#order;
  }

  /** Remembers a change; what was taken back before it cannot be done again. */
  did(done: Done, order = this.next()): void {
    const later = this.#stacks.done.findIndex((other) => (other.order ?? 0) > order);
    const at = later < 0 ? this.#stacks.done.length : later;
    const all = [...this.#stacks.done.slice(0, at), { ...done, order }, ...this.#stacks.done.slice(at)];
    this.#stacks = { done: all.slice(-MOST), undone: [] };
    this.#keep();
  }

  /** Takes the last change back; null when there is none. */
  undo(): Promise<(Done & Schemas["Undone"]) | null> {
    return this.#step("done", "undone");
  }

  /** Does again what was taken back last; null when there is nothing. */
  redo(): Promise<(Done & Schemas["Undone"]) | null> {
    return this.#step("undone", "done");
  }

  async #step(from: keyof Stacks, to: keyof Stacks): Promise<(Done & Schemas["Undone"]) | null> {
    const last = this.#stacks[from].at(-1);
    if (!last) return null;
    // Taken off first: a change that cannot be taken back must not stand in the way of the one before it.
    this.#stacks = { ...this.#stacks, [from]: this.#stacks[from].slice(0, -1) };
    this.#keep();
    const undone = await ask<Schemas["Undone"]>(`/api/changes/${last.change}/undo`, { method: "POST" }).catch(
      (failure: unknown) => {
        if (!(failure instanceof Refused)) this.#putBack(from, last);
        throw failure;
      },
    );
    const back = { change: undone.change, entries: last.entries, order: last.order };
    this.#stacks = { ...this.#stacks, [to]: [...this.#stacks[to], back] };
    this.#keep();
    return { ...undone, entries: last.entries };
  }

  /** A server that could not be asked has refused nothing: it can be asked again. */
  #putBack(from: keyof Stacks, last: Done): void {
    this.#stacks = { ...this.#stacks, [from]: [...this.#stacks[from], last] };
    this.#keep();
  }

  /** Forgets everything. */
  forget(): void {
    this.#stacks = { done: [], undone: [] };
    this.#keep();
  }

  #name(): string {
    return `${KEPT}.${this.#person}`;
  }

  #keep(): void {
    writeKept(thisTab, this.#name(), this.#stacks);
  }
}

function areStacks(kept: unknown): kept is Stacks {
  const { done, undone } = (kept ?? {}) as Partial<Stacks>;
  return [done, undone].every((stack) => Array.isArray(stack) && stack.every((one) => typeof one.change === "number"));
}

/** What is to be said of an undo beside that it was done: what stayed as it is, or came back as a draft; empty for nothing. */
export function saidOf(undone: Schemas["Undone"]): string {
  const lowered = undone.lowered[0];
  return undone.refused[0] ?? (lowered ? t("undo.lowered", { n: undone.lowered.length, first: lowered }) : "");
}

/** The one stack of this browser tab. */
export const undoing = new Undoing();
