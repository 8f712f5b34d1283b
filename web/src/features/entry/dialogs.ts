import { later } from "../../parts/later";

export const EntryDialog = later(async () => (await import("./EntryDialog")).EntryDialog);
export const MoveDialog = later(async () => (await import("./MoveDialog")).MoveDialog);
