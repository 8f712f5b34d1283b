export { NoRights } from "./NoRights";
export { SignIn } from "./SignIn";
