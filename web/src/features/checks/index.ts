export { kindName } from "./kinds";
export { FINDINGS, useFindingCounts } from "./useFindings";
