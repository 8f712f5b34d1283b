export { CodePlaces } from "./CodePlaces";
