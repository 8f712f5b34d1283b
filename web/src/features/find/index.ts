export { FindBox } from "./FindBox";
