export { Contributions } from "./Contributions";
export { StandingRules } from "./StandingRules";
