import { t } from "../../words/words";

const KEY = "mellow.reasons";
/** A longer list would not be read. */
const MOST = 8;

/** The reasons one gives for returning an offer: the usual ones at first, then one's own, the last used first. */
export const reasons = {
  all(): string[] {
    const kept = localStorage.getItem(KEY);
    return kept
      ? (JSON.parse(kept) as string[])
      : [t("reason.meaning"), t("reason.wording"), t("reason.term"), t("reason.length"), t("reason.placeholder")];
  },
  used(reason: string): void {
    const others = this.all().filter((one) => one !== reason);
    localStorage.setItem(KEY, JSON.stringify([reason, ...others].slice(0, MOST)));
  },
  drop(reason: string): void {
    localStorage.setItem(KEY, JSON.stringify(this.all().filter((one) => one !== reason)));
  },
};
