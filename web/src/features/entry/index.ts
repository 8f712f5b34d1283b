import { later } from "../../parts/later";

export { EntryNote } from "./EntryNote";
export { PictureShown } from "./PictureShown";

export const EntryDialog = later(async () => (await import("./EntryDialog")).EntryDialog);
