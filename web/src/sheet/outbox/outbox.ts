import { ask, findingsSaid, Refused, sentenceOf, Unreachable, type Schemas } from "../../api/client";
import { t } from "../../words/words";
import type { Forms } from "../../text/shapes";
import { undoing } from "../undoing";
import { gone, keepRecord, live, takeOver, type Record } from "./records";
import * as slips from "./slip";
import type { CellView, Change, Seen, Slip } from "./slip";
import { waiting } from "./waiting";

/** What a cell shows beside what the server last said of it. */
export interface Pending {
  forms: Forms;
  status: "saving" | "waiting" | "failed" | "conflict";
  /** Why it is not there yet. */
  sentence?: string;
  /** For a conflict: the cell as someone else left it. */
  theirs?: CellView;
}

/** A text that the server does not have, in the list of them. */
export interface Unsaved {
  entry: number;
  language: string;
  pending: Pending;
}

/** What became of a change. */
export type Outcome = { done: true; lowered: string } | { done: false; why: string; waits: boolean };

type Told = (entry: number, language: string, cell: CellView | null, changed: boolean) => void;

interface Ticket {
  order: number;
  version: () => Promise<number>;
  resolve: (outcome: Outcome) => void;
}

/**
 * Everything that this page has not brought to the server yet, a slip per cell. Changes of a cell go in a chain, each upon what the one before made;
 * cells do not wait for each other. It outlives every screen: one who leaves a sheet loses nothing that was on its way.
 */
export class Outbox {
  readonly #slips = new Map<string, Slip>();
  readonly #tickets = new Map<string, Ticket>();
  readonly #listeners = new Set<() => void>();
  readonly #cells = new Set<Told>();
  readonly #awaited = new Set<string>();
  #person = 0;
  #ids = 0;
  #running = 0;
  #resting: (() => void)[] = [];
  #unsaved: Unsaved[] | null = null;
  /** Whether tabs that are gone left texts for cells that have one of this tab. */
  #leftBehind = false;

  constructor() {
    live();
  }

  /**
   * Says whose texts these are: nobody's are shown or sent under another's name on a computer that several share. At the door, where nobody is known (0),
   * they stay what they are, for whoever comes back.
   */
  belongTo(person: number): void {
    if (this.#person === person || person === 0) return;
    this.#person = person;
    const names = [...this.#slips.keys()];
    this.#slips.clear();
    this.#tickets.clear();
    waiting.clear();
    for (const name of names) this.#tell(name, null, false);
    void this.takeOver();
  }

  /** Shows what tabs that are gone left, and sends what was on its way there. */
  async takeOver(): Promise<void> {
    const person = this.#person;
    const working = await takeOver(person, (record) => person === this.#person && this.#adopt(record));
    for (const tab of working) {
      if (this.#awaited.has(tab)) continue;
      this.#awaited.add(tab);
      void gone(tab).then(() => {
        this.#awaited.delete(tab);
        return this.takeOver();
      });
    }
  }

  #adopt({ entry, language, forms, why, chain }: Record): boolean {
    const name = nameOf(entry, language);
    if (this.#slips.has(name)) {
      this.#leftBehind = true;
      return false;
    }
    let slip = slips.EMPTY;
    let last: string | null = null;
    for (const { change, version } of chain) {
      const id = this.#id();
      const unknown = version === null && last === null;
      // What was not told what it replaces may not replace anything by itself.
      if (unknown)
        slip = slips.keeps(slip, null, { forms: slips.formsOfChange(change) ?? {}, why: t("cell.keptHere") });
      else
        slip = slips.wants(slip, {
          id,
          change,
          seen: { version: version ?? undefined, after: version === null ? last : null },
        });
      if (!unknown) last = id;
    }
    if (forms) slip = slips.keeps(slip, null, { forms, why: why || t("cell.keptHere") });
    this.#put(name, slip);
    void this.#run(name);
    return true;
  }

  /** What somebody sees who begins to type in a cell that is at `version`, as far as this page knows; undefined while it has not arrived. */
  seen(entry: number, language: string, version: number | undefined): Seen {
    return slips.seenNow(this.#slip(nameOf(entry, language)), version);
  }

  /** The version that counts as seen; undefined while nothing can be said. */
  versionOf(entry: number, language: string, seen: Seen): number | undefined {
    return slips.versionOf(this.#slip(nameOf(entry, language)), seen);
  }

  /** An editor opens in a cell. @returns its number, which what is typed there is told with */
  opens(entry: number, language: string, seen: Seen): string {
    const name = nameOf(entry, language);
    const id = this.#id();
    this.#put(name, slips.opened(this.#slip(name), id, seen));
    return id;
  }

  /** A letter was typed there. Nobody is told: the editor shows it, and nothing else does before it is left. */
  typed(entry: number, language: string, id: string, forms: Forms): void {
    const name = nameOf(entry, language);
    this.#keep(name, slips.typed(this.#slip(name), id, forms));
  }

  /** The editor is left, and nothing was changed in it. */
  leaves(entry: number, language: string, id: string): void {
    const name = nameOf(entry, language);
    this.#put(name, slips.left(this.#slip(name), id));
  }

  /** A text stays here for a reason, until its person puts it forward or drops it. */
  keeps(entry: number, language: string, id: string | null, forms: Forms, why: string): void {
    const name = nameOf(entry, language);
    this.#put(name, slips.keeps(this.#slip(name), id, { forms, why }));
  }

  /** Drops the text that is kept here. */
  drop(entry: number, language: string): void {
    const name = nameOf(entry, language);
    this.#put(name, slips.dropped(this.#slip(name)));
    this.#makeRoom(name);
  }

  /**
   * Sends a change after those of the cell that are on their way.
   *
   * @param editor - the editor that it ends, or null
   * @param version - finds the cell's version out where nobody saw one
   */
  change(
    entry: number,
    language: string,
    change: Change,
    seen: Seen,
    editor: string | null,
    version: () => Promise<number>,
  ): Promise<Outcome> {
    const name = nameOf(entry, language);
    const id = this.#id();
    const before = editor === null ? this.#slip(name) : slips.left(this.#slip(name), editor);
    return new Promise((resolve) => {
      this.#tickets.set(id, { order: undoing.next(), version, resolve });
      this.#put(name, slips.wants(before, { id, change, seen }));
      void this.#run(name);
    });
  }

  /** What the cell shows beside what the server said, or undefined. */
  pending(entry: number, language: string): Pending | undefined {
    const slip = this.#slips.get(nameOf(entry, language));
    return slip && shown(slip);
  }

  /** All texts that the server does not have and that are not being sent this moment; the same list until it changes. */
  unsaved(): Unsaved[] {
    this.#unsaved ??= [...this.#slips].flatMap(([name, slip]) => {
      const pending = shown(slip);
      const [entry = "", language = ""] = name.split(" ");
      return pending && pending.status !== "saving" ? [{ entry: Number(entry), language, pending }] : [];
    });
    return this.#unsaved;
  }

  /** Resolves once nothing is on its way; what waits for the line is not waited for. */
  rest(): Promise<void> {
    return this.#running === 0 ? Promise.resolve() : new Promise((resolve) => this.#resting.push(resolve));
  }

  /** Work beside the slips that undo has to wait for, as a change of many cells. */
  async during<T>(work: Promise<T>): Promise<T> {
    this.#running++;
    try {
      return await work;
    } finally {
      this.#came();
    }
  }

  #came(): void {
    this.#running--;
    if (this.#running === 0) for (const done of this.#resting.splice(0)) done();
  }

  /** Hears of every change of what is not saved. */
  subscribe = (listener: () => void): (() => void) => {
    this.#listeners.add(listener);
    return () => this.#listeners.delete(listener);
  };

  /** Hears of cells: what a change made of them, and what they show beside it. */
  onCell(listener: Told): () => void {
    this.#cells.add(listener);
    return () => this.#cells.delete(listener);
  }

  #id(): string {
    return `${++this.#ids}`;
  }

  #slip(name: string): Slip {
    return this.#slips.get(name) ?? slips.EMPTY;
  }

  #put(name: string, slip: Slip): void {
    this.#keep(name, slip);
    this.#tell(name, null, false);
  }

  #keep(name: string, slip: Slip): void {
    if (slips.isDone(slip)) this.#slips.delete(name);
    else this.#slips.set(name, slip);
    const [entry = "", language = ""] = name.split(" ");
    keepRecord(this.#person, Number(entry), language, slip);
  }

  #tell(name: string, cell: CellView | null, changed: boolean): void {
    const [entry = "", language = ""] = name.split(" ");
    this.#unsaved = null;
    for (const listener of this.#cells) listener(Number(entry), language, cell, changed);
    for (const listener of this.#listeners) listener();
  }

  /** Sends what is ready, one after the other; what nobody answered is tried again by itself. */
  async #run(name: string): Promise<void> {
    if (this.#slip(name).head !== "ready") return;
    this.#running++;
    try {
      while (this.#slip(name).head === "ready" && this.#slip(name).chain.length > 0) {
        if ((await this.#send(name)) === "again") {
          waiting.add(name, () => this.#again(name));
          break;
        }
      }
    } finally {
      this.#came();
    }
  }

  async #again(name: string): Promise<"done" | "again"> {
    // A newer text may have overtaken the one that waited, and be on its way by itself.
    const { head, chain } = this.#slip(name);
    if (chain.length === 0 || head === "sending") return "done";
    const outcome = await this.#send(name);
    if (outcome === "done") void this.#run(name);
    return outcome;
  }

  async #send(name: string): Promise<"done" | "again"> {
    const person = this.#person;
    const first = this.#slip(name).chain[0];
    if (!first) return "done";
    const [entry = "", language = ""] = name.split(" ");
    const ticket = this.#tickets.get(first.id);
    this.#put(name, slips.sent(this.#slip(name)));
    try {
      const version = slips.versionOf(this.#slip(name), first.seen) ?? (await ticket?.version()) ?? 0;
      const json = { meaningConfirmed: false, ...first.change, version };
      const path = `/api/entries/${entry}/cells/${encodeURIComponent(language)}/changes`;
      const changed = await ask<Schemas["CellChanged"]>(path, { method: "POST", json });
      if (person !== this.#person) return "done";
      undoing.did({ change: changed.change, entries: [Number(entry)] }, ticket?.order);
      this.#tell(name, changed.cell, true);
      this.#put(name, slips.answered(this.#slip(name), changed.cell.version));
      const lowered = changed.lowered ? t("cell.lowered", { why: findingsSaid(changed.lowered) }) : "";
      this.#settle(first.id, { done: true, lowered });
    } catch (failure) {
      if (person !== this.#person) return "done";
      const why = sentenceOf(failure);
      if (notAnswered(failure)) {
        this.#put(name, slips.unanswered(this.#slip(name), t("cell.triedAgain", { why })));
        this.#settle(first.id, { done: false, why, waits: true });
        return "again";
      }
      const theirs =
        failure instanceof Refused && failure.code === "cell-moved-on"
          ? (failure.details.cell as CellView | undefined)
          : undefined;
      if (theirs) this.#tell(name, theirs, true);
      const slip = this.#slip(name);
      const next = theirs ? slips.conflicted(slip, theirs, why) : slips.refused(slip, why);
      this.#put(name, next);
      // Not the end of it where the same change is sent once more.
      if (next.chain[0]?.id !== first.id) {
        const arrived = theirs !== undefined && next.answered?.id === first.id;
        this.#settle(first.id, arrived ? { done: true, lowered: "" } : { done: false, why, waits: false });
      }
    }
    this.#makeRoom(name);
    return "done";
  }

  /** Another text for this cell may have been left behind, and is to be seen now. */
  #makeRoom(name: string): void {
    if (!this.#leftBehind || !slips.isDone(this.#slip(name))) return;
    this.#leftBehind = false;
    void this.takeOver();
  }

  #settle(id: string, outcome: Outcome): void {
    this.#tickets.get(id)?.resolve(outcome);
    if (outcome.done || !outcome.waits) this.#tickets.delete(id);
  }
}

const nameOf = (entry: number, language: string) => `${entry} ${language}`;

/** Whether trying again later may help: there was no answer, nobody is signed in any more, or the server is not itself. */
function notAnswered(failure: unknown): boolean {
  return (
    failure instanceof Unreachable || (failure instanceof Refused && [401, 502, 503, 504].includes(failure.status))
  );
}

/** What is shown of a slip: what waits for its person, else the last text on its way. */
function shown(slip: Slip): Pending | undefined {
  const { kept } = slip;
  if (kept) {
    const status = kept.theirs ? "conflict" : "failed";
    return { forms: kept.forms, status, sentence: kept.why, theirs: kept.theirs };
  }
  const forms = slip.chain.map(({ change }) => slips.formsOfChange(change)).findLast((one) => one !== null);
  if (!forms) return undefined;
  return slip.head === "waiting" ? { forms, status: "waiting", sentence: slip.why } : { forms, status: "saving" };
}

/** The one outbox of this page. */
export const outbox = new Outbox();
