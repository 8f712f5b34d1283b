import { pieces } from "./pieces";

/** A run of characters, from its first to after its last, in UTF-16 units. */
export interface Range {
  start: number;
  end: number;
}

/** Where the placeholders of a text stand. */
export function placeholdersIn(text: string): Range[] {
  const found: Range[] = [];
  let at = 0;
  for (const piece of pieces(text)) {
    if (piece.kind === "placeholder") found.push({ start: at, end: at + piece.text.length });
    at += piece.text.length;
  }
  return found;
}

/**
 * A selection that cuts no placeholder: a caret within one goes to its other side, seen from where it came from, and a range takes it in whole.
 *
 * @param before - where the caret was before
 */
export function snapped(text: string, selection: Range, before: number): Range {
  let { start, end } = selection;
  for (const held of placeholdersIn(text)) {
    const cuts = (at: number) => at > held.start && at < held.end;
    if (start === end) {
      if (cuts(start)) start = end = before <= held.start ? held.end : held.start;
      continue;
    }
    if (cuts(start)) start = held.start;
    if (cuts(end)) end = held.end;
  }
  return { start, end };
}

/** The whole placeholder that a key at `caret` would break, or null. */
export function broken(text: string, caret: number, key: "Backspace" | "Delete"): Range | null {
  return placeholdersIn(text).find((held) => (key === "Backspace" ? held.end : held.start) === caret) ?? null;
}

/** The placeholders of the source that a text does not have, each as often as it is missing. */
export function missingFrom(text: string, source: string[]): string[] {
  const has = placeholdersIn(text).map(({ start, end }) => text.slice(start, end));
  return source.filter((one) => {
    const at = has.indexOf(one);
    if (at >= 0) has.splice(at, 1);
    return at < 0;
  });
}
