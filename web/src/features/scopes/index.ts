export { ScopeMenu } from "./ScopeMenu";
