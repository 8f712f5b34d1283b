export { EntryDialog, SourceDialog } from "./dialogs";
export { EntryNote } from "./EntryNote";
export { PictureShown } from "./PictureShown";
