import { later } from "../../parts/later";

export const ExportDialog = later(async () => (await import("./ExportDialog")).ExportDialog);
