import { ask, Refused, type Schemas } from "../../api/client";
import { t } from "../../words/words";

/** A change that can be taken back. */
export interface Done {
  /** The server's number of the change. */
  change: number;
  /** The entries it concerned, to be read again. */
  entries: number[];
}

const KEPT = "mellow.undo";
const MOST = 200;

interface Stacks {
  done: Done[];
  undone: Done[];
}

/** One's own last changes, to be taken back and done again one by one; they survive a reload of the page. */
class Undoing {
  #stacks: Stacks = read();

  /** Remembers a change; what was taken back before it cannot be done again. */
  did(done: Done): void {
    this.#stacks = { done: [...this.#stacks.done, done].slice(-MOST), undone: [] };
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
    this.#stacks = { ...this.#stacks, [to]: [...this.#stacks[to], { change: undone.change, entries: last.entries }] };
    this.#keep();
    return { ...undone, entries: last.entries };
  }

  /** A server that could not be asked has refused nothing: it can be asked again. */
  #putBack(from: keyof Stacks, last: Done): void {
    this.#stacks = { ...this.#stacks, [from]: [...this.#stacks[from], last] };
    this.#keep();
  }

  /** Forgets everything, when someone else signs in. */
  forget(): void {
    this.#stacks = { done: [], undone: [] };
    this.#keep();
  }

  #keep(): void {
    sessionStorage.setItem(KEPT, JSON.stringify(this.#stacks));
  }
}

function read(): Stacks {
  const kept = sessionStorage.getItem(KEPT);
  return kept ? (JSON.parse(kept) as Stacks) : { done: [], undone: [] };
}

/** What is to be said of an undo beside that it was done: what stayed as it is, or came back as a draft; empty for nothing. */
export function saidOf(undone: Schemas["Undone"]): string {
  const lowered = undone.lowered[0];
  return undone.refused[0] ?? (lowered ? t("undo.lowered", { n: undone.lowered.length, first: lowered }) : "");
}

/** The one stack of this browser tab. */
export const undoing = new Undoing();
