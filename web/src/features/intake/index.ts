export { DropOnTable } from "./DropOnTable";
export { formatLabel, formatNames, useFormats } from "./formats";
export { useIntakes } from "./useIntake";
