import type { Schemas } from "../../api/client";

/** A line of the spread: a section's heading, or the entry at an index of the scope. */
export type Line = { kind: "section"; name: string } | { kind: "entry"; index: number };

/** The entries of a scope in order, with their headings, for any line of a sheet of hundreds of thousands in O(log sections). */
export class Entries {
  readonly ids: Float64Array;
  /** Headings and entries together. */
  readonly lines: number;
  readonly #names: string[];
  /** Index of the first entry of each section. */
  readonly #starts: number[];

  /**
   * @param reply - the scope as the server told it
   * @param tables - names of the tables by their names in addresses when there are several: headings then begin with them
   */
  constructor(reply: Schemas["ScopeReply"], tables: Map<string, string> = new Map()) {
    this.ids = new Float64Array(reply.deltas.length);
    let id = 0;
    for (let i = 0; i < reply.deltas.length; i++) {
      id += reply.deltas[i] ?? 0;
      this.ids[i] = id;
    }
    const named = tables.size > 0 || reply.sections.some((section) => section.name !== "");
    const heading = (section: Schemas["SectionReply"]) =>
      [tables.get(section.table) ?? "", section.name].filter((part) => part !== "").join(" · ");
    this.#names = named ? reply.sections.map(heading) : [];
    this.#starts = named ? reply.sections.map((section) => section.at) : [];
    this.lines = this.ids.length + this.#starts.length;
  }

  /** Number of entries. */
  get size(): number {
    return this.ids.length;
  }

  /** What stands on line `line`, 0-based. */
  at(line: number): Line {
    const section = this.#sectionOfLine(line);
    if (section < 0) {
      return { kind: "entry", index: line };
    }
    const start = (this.#starts[section] ?? 0) + section;
    return line === start
      ? { kind: "section", name: this.#names[section] ?? "" }
      : { kind: "entry", index: line - section - 1 };
  }

  /** Index of the entry on line `line`, or of the first one below a heading. */
  indexFrom(line: number): number {
    const at = this.at(line);
    const below = at.kind === "entry" ? at : this.at(line + 1);
    return below.kind === "entry" ? below.index : this.size;
  }

  /** The line of the entry at `index`. */
  lineOf(index: number): number {
    let low = 0;
    let high = this.#starts.length;
    while (low < high) {
      const middle = (low + high) >>> 1;
      if ((this.#starts[middle] ?? 0) <= index) low = middle + 1;
      else high = middle;
    }
    return index + low;
  }

  #sectionOfLine(line: number): number {
    let low = 0;
    let high = this.#starts.length;
    while (low < high) {
      const middle = (low + high) >>> 1;
      if ((this.#starts[middle] ?? 0) + middle <= line) low = middle + 1;
      else high = middle;
    }
    return low - 1;
  }
}
