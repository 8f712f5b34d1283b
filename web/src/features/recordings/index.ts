export { LineNote } from "./LineNote";
export { LineDialog } from "./LineDialog";
export { LinesDialog } from "./LinesDialog";
