import type { Schemas } from "../api/client";

/** A line of the spread: a section's heading, or the entry at an index of the scope. */
export type Line =
  { kind: "section"; section: number; name: string; size: number; folded: boolean } | { kind: "entry"; index: number };

/** The entries of a scope in order, with their headings, for any line of a sheet of hundreds of thousands in O(log sections). */
export class Entries {
  readonly ids: Float64Array;
  /** Headings and the entries below those that are not folded. */
  readonly lines: number;
  readonly #names: string[];
  /** Index of the first entry of each section. */
  readonly #starts: number[];
  /** The line of each section's heading. */
  readonly #heads: number[];
  readonly #folded: ReadonlySet<string>;

  private constructor(ids: Float64Array, names: string[], starts: number[], folded: ReadonlySet<string>) {
    this.ids = ids;
    this.#names = names;
    this.#starts = starts;
    this.#folded = folded;
    this.#heads = [];
    let line = names.length > 0 ? 0 : ids.length;
    names.forEach((name, section) => {
      this.#heads.push(line);
      line += 1 + (folded.has(name) ? 0 : this.#size(section));
    });
    this.lines = line;
  }

  /**
   * @param reply - the scope as the server told it
   * @param tables - names of the tables by their names in addresses when there are several: headings then begin with them
   */
  static of(reply: Schemas["ScopeReply"], tables: Map<string, string> = new Map()): Entries {
    const ids = new Float64Array(reply.deltas.length);
    let id = 0;
    for (let i = 0; i < reply.deltas.length; i++) {
      id += reply.deltas[i] ?? 0;
      ids[i] = id;
    }
    const named = tables.size > 0 || reply.sections.some((section) => section.name !== "");
    const heading = (section: Schemas["SectionReply"]) =>
      [tables.get(section.table) ?? "", section.name].filter((part) => part !== "").join(" · ");
    return new Entries(
      ids,
      named ? reply.sections.map(heading) : [],
      named ? reply.sections.map((section) => section.at) : [],
      new Set(),
    );
  }

  /** The same with the sections of these names folded. */
  folding(names: ReadonlySet<string>): Entries {
    return new Entries(this.ids, this.#names, this.#starts, names);
  }

  /** Number of entries. */
  get size(): number {
    return this.ids.length;
  }

  /** The names of all sections, each once. */
  get sections(): string[] {
    return [...new Set(this.#names)];
  }

  /** The name of the section that the entry at `index` stands in, null where there are no headings. */
  sectionOf(index: number): string | null {
    return this.#names[last(this.#starts, index)] ?? null;
  }

  /** Whether the entry at `index` stands in a folded section. */
  hidden(index: number): boolean {
    const section = last(this.#starts, index);
    return section >= 0 && this.#folded.has(this.#names[section] ?? "");
  }

  /** The nearest entry that is not in a folded section, from `index` on in the direction of `by`, else in the other one. */
  seen(index: number, by: 1 | -1): number {
    if (!this.hidden(index)) return index;
    for (const step of [by, -by]) {
      let section = last(this.#starts, index);
      while (section >= 0 && section < this.#names.length) {
        if (!this.#folded.has(this.#names[section] ?? "") && this.#size(section) > 0) {
          const start = this.#starts[section] ?? 0;
          return step > 0 ? start : start + this.#size(section) - 1;
        }
        section += step;
      }
    }
    return index;
  }

  /** What stands on line `line`, 0-based. */
  at(line: number): Line {
    const section = last(this.#heads, line);
    if (section < 0) return { kind: "entry", index: line };
    const head = this.#heads[section] ?? 0;
    const name = this.#names[section] ?? "";
    return line === head
      ? { kind: "section", section, name, size: this.#size(section), folded: this.#folded.has(name) }
      : { kind: "entry", index: (this.#starts[section] ?? 0) + line - head - 1 };
  }

  /** Index of the entry on line `line`, or of the first one below a heading. */
  indexFrom(line: number): number {
    const at = this.at(line);
    return at.kind === "entry" ? at.index : (this.#starts[at.section] ?? 0);
  }

  /** The line of the entry at `index`; that of its heading when it is folded. */
  lineOf(index: number): number {
    const section = last(this.#starts, index);
    if (section < 0) return index;
    const head = this.#heads[section] ?? 0;
    return this.#folded.has(this.#names[section] ?? "") ? head : head + 1 + index - (this.#starts[section] ?? 0);
  }

  #size(section: number): number {
    return (this.#starts[section + 1] ?? this.ids.length) - (this.#starts[section] ?? 0);
  }
}

/** Index of the last number that is not above `value`, -1 for none; `sorted` ascending. */
function last(sorted: number[], value: number): number {
  let low = 0;
  let high = sorted.length;
  while (low < high) {
    const middle = (low + high) >>> 1;
    if ((sorted[middle] ?? 0) <= value) low = middle + 1;
    else high = middle;
  }
  return low - 1;
}
