import type { Place } from "./keyboard";

/** A block of cells, all four edges within it; rows by index in the scope, columns by index of the language. */
export interface Block {
  top: number;
  bottom: number;
  left: number;
  right: number;
}

/** The block between two corners, in whatever order they were chosen. */
export function blockOf(anchor: Place, place: Place): Block {
  return {
    top: Math.min(anchor.row, place.row),
    bottom: Math.max(anchor.row, place.row),
    left: Math.min(anchor.column, place.column),
    right: Math.max(anchor.column, place.column),
  };
}

/** Number of its cells. */
export function sizeOf(block: Block): number {
  return (block.bottom - block.top + 1) * (block.right - block.left + 1);
}

/** Those of the languages whose columns are in the block; that of the sources is none. */
export function languagesIn<T>(block: Block, languages: T[]): T[] {
  return languages.slice(Math.max(0, block.left), block.right + 1);
}

/** Its places, row by row. */
export function placesIn(block: Block): Place[] {
  const places: Place[] = [];
  for (let row = block.top; row <= block.bottom; row++) {
    for (let column = block.left; column <= block.right; column++) places.push({ row, column });
  }
  return places;
}

/** A text that goes to a place. */
export interface Put {
  place: Place;
  text: string;
}

/**
 * Where the cells of a pasted block go: a single one fills the whole selection, others begin at its first cell. What would go beyond the last row
 * or column is counted and left out.
 */
export function laidOut(
  pasted: string[][],
  block: Block,
  rows: number,
  columns: number,
): { puts: Put[]; beyond: number } {
  const only = pasted.length === 1 && pasted[0]?.length === 1 ? (pasted[0][0] ?? "") : undefined;
  if (only !== undefined) return { puts: placesIn(block).map((place) => ({ place, text: only })), beyond: 0 };
  const puts: Put[] = [];
  let beyond = 0;
  pasted.forEach((line, down) =>
    line.forEach((text, right) => {
      const place = { row: block.top + down, column: block.left + right };
      if (place.row < rows && place.column < columns) puts.push({ place, text });
      else beyond++;
    }),
  );
  return { puts, beyond };
}
