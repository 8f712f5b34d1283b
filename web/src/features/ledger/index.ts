export { CheckedEditor } from "./CheckedEditor";
export { Footnotes } from "./Footnotes";
export { useSheetLive } from "./useSheetLive";
