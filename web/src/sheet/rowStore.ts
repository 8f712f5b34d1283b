import { ask, type Schemas } from "../api/client";
import { outbox, type Pending } from "./outbox/outbox";

export type Row = Schemas["RowReply"];
export type CellView = Schemas["CellView"];

const PAGE = 60;
/** As many rows as the server gives at once. */
const MOST = 200;

/**
 * The rows of one scope, fetched by page as they come into view, kept while the scope is open. Components subscribe to single rows, so that a
 * change draws one row again and not the sheet.
 */
export class RowStore {
  readonly #rows = new Map<number, Row>();
  readonly #asked = new Set<number>();
  readonly #listeners = new Map<number, Set<() => void>>();
  readonly #versions = new Map<number, number>();
  readonly #everywhere = new Set<() => void>();
  #changes = 0;
  #telling = false;
  readonly #languages: string[];
  readonly #onFailure: (failure: unknown) => void;

  constructor(languages: string[], onFailure: (failure: unknown) => void) {
    this.#languages = languages;
    this.#onFailure = onFailure;
  }

  row(id: number): Row | undefined {
    return this.#rows.get(id);
  }

  cell(id: number, language: string): CellView | undefined {
    return this.#rows.get(id)?.cells.find((cell) => cell.language === language);
  }

  /** What the cell shows that the server does not have. */
  pending(id: number, language: string): Pending | undefined {
    return outbox.pending(id, language);
  }

  /** Draws what the outbox brings and gets, as long as it is followed. */
  follow(): () => void {
    return outbox.onCell((id, _, cell) => {
      if (cell) this.setCell(id, cell);
      else if (this.#rows.has(id)) this.#changed(id);
    });
  }

  /** Grows whenever the row or anything pending in it changes. */
  version(id: number): number {
    return this.#versions.get(id) ?? 0;
  }

  subscribe(id: number, listener: () => void): () => void {
    const listeners = this.#listeners.get(id) ?? new Set();
    listeners.add(listener);
    this.#listeners.set(id, listeners);
    return () => listeners.delete(listener);
  }

  /** Grows with every change of any row. */
  get changes(): number {
    return this.#changes;
  }

  /** Tells of every change, at most once in a turn of the event loop. */
  subscribeAll(listener: () => void): () => void {
    this.#everywhere.add(listener);
    return () => this.#everywhere.delete(listener);
  }

  /** Fetches what is missing around the entries from index `from` up to `to`. */
  ensure(ids: Float64Array, from: number, to: number): void {
    const first = Math.floor(Math.max(0, from) / PAGE);
    const last = Math.floor(Math.max(0, Math.min(ids.length, to) - 1) / PAGE);
    for (let page = first; page <= last; page++) {
      if (!this.#asked.has(page)) {
        this.#asked.add(page);
        void this.#fetch(page, [...ids.subarray(page * PAGE, (page + 1) * PAGE)]);
      }
    }
  }

  /** Fetches those of these entries that are not here yet; whether all are here afterwards. */
  async load(ids: number[]): Promise<boolean> {
    const missing = ids.filter((id) => !this.#rows.has(id));
    for (let at = 0; at < missing.length; at += MOST) {
      if (!(await this.#read(missing.slice(at, at + MOST)))) return false;
    }
    return true;
  }

  /** Reads rows again that may have changed elsewhere, all when none are named. Only rows that are here already are asked for. */
  async refresh(ids: number[] = []): Promise<void> {
    const here = ids.length ? ids.filter((id) => this.#rows.has(id)) : [...this.#rows.keys()];
    for (let at = 0; at < here.length; at += PAGE) {
      await this.#read(here.slice(at, at + PAGE));
    }
  }

  async #fetch(page: number, ids: number[]): Promise<void> {
    if (!(await this.#read(ids))) this.#asked.delete(page);
  }

  async #read(ids: number[]): Promise<boolean> {
    const query = new URLSearchParams({ ids: ids.join(","), in: this.#languages.join(",") });
    try {
      for (const row of await ask<Row[]>(`/api/rows?${query}`)) {
        this.#rows.set(row.id, newest(this.#rows.get(row.id), row));
        this.#changed(row.id);
      }
      return true;
    } catch (failure) {
      this.#onFailure(failure);
      return false;
    }
  }

  /** Resolves once the row is here; at once when it is. */
  loaded(id: number): Promise<void> {
    return new Promise((resolve) => {
      const stop = this.subscribe(id, () => check());
      const check = () => {
        if (this.#rows.has(id)) {
          stop();
          resolve();
        }
      };
      check();
    });
  }

  setCell(id: number, cell: CellView): void {
    const row = this.#rows.get(id);
    const known = this.cell(id, cell.language);
    if (row && !(known && known.version > cell.version)) {
      this.#rows.set(id, { ...row, cells: [...row.cells.filter((other) => other.language !== cell.language), cell] });
      this.#changed(id);
    }
  }

  #changed(id: number): void {
    this.#changes++;
    if (this.#everywhere.size > 0 && !this.#telling) {
      this.#telling = true;
      queueMicrotask(() => {
        this.#telling = false;
        for (const listener of this.#everywhere) listener();
      });
    }
    this.#versions.set(id, this.version(id) + 1);
    for (const listener of this.#listeners.get(id) ?? []) listener();
  }
}

/** A reply that was on its way while a newer one came must not bring older cells back. */
function newest(known: Row | undefined, read: Row): Row {
  if (!known) return read;
  const cells = read.cells.map((cell) => {
    const mine = known.cells.find((other) => other.language === cell.language);
    return mine && mine.version > cell.version ? mine : cell;
  });
  return { ...(known.version > read.version ? known : read), cells };
}
