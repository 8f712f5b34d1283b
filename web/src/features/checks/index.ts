export { useFindingCounts } from "./useFindings";
