export { ReplaceDialog } from "./ReplaceDialog";
