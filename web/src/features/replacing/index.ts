import { later } from "../../parts/later";

export const ReplaceDialog = later(async () => (await import("./ReplaceDialog")).ReplaceDialog);
