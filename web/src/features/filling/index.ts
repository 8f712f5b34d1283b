export { FillDialog } from "./FillDialog";
export { CountDialog } from "./CountDialog";
export { SpreadNote } from "./SpreadNote";
