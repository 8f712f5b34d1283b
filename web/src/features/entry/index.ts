export { EntryDialog } from "./dialogs";
export { EntryNote } from "./EntryNote";
export { PictureShown } from "./PictureShown";
// A key opens it, and people type on: it is at hand at once.
export { SourceDialog } from "./SourceDialog";
