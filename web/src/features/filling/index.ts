export { FillDialog } from "./FillDialog";
