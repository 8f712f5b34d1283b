import { later } from "../../parts/later";

export { LanguagePicker } from "./LanguagePicker";

export const ProductDialog = later(async () => (await import("./ProductDialog")).ProductDialog);
