export { CodePlaces } from "./CodePlaces";
export { placesKey } from "./places";
