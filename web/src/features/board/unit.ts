/** What the board counts. */
export type Unit = "entries" | "words";
