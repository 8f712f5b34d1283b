import { t } from "../../words/words";
import type { Figures } from "./useContributions";

const HOUR_S = 3_600;
const DAY_S = 86_400;

/** How long something took, in the largest unit that says enough: "40 minutes", "7 hours", "3 days". */
export function lasted(seconds: number): string {
  if (seconds < HOUR_S) return t("lasted.minutes", { n: Math.max(1, Math.round(seconds / 60)) });
  if (seconds < 2 * DAY_S) return t("lasted.hours", { n: Math.round(seconds / HOUR_S) });
  return t("lasted.days", { n: Math.round(seconds / DAY_S) });
}

/** The share of characters that amending changed, in whole percent; null without an amended text. */
export function amendedShare({ changed, changedOf }: Figures): number | null {
  return changedOf === 0 ? null : Math.round((100 * changed) / changedOf);
}
