/** The id of a cell's element, for what follows the cursor. */
export function cellId(row: number, column: number): string {
  return `cell-${row}-${column}`;
}
