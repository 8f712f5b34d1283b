export { UnsavedTexts } from "./UnsavedTexts";
