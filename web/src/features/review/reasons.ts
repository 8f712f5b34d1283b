import { everyTab, readKept, writeKept } from "../../sheet/outbox/browserStore";
import { t } from "../../words/words";

const KEY = "mellow.reasons";
/** A longer list would not be read. */
const MOST = 8;

function areReasons(kept: unknown): kept is string[] {
  return Array.isArray(kept) && kept.every((reason) => typeof reason === "string");
}

/** The reasons one gives for returning an offer: the usual ones at first, then one's own, the last used first. */
export const reasons = {
  all(): string[] {
    return (
      readKept(everyTab, KEY, areReasons) ?? [
        t("reason.meaning"),
        t("reason.wording"),
        t("reason.term"),
        t("reason.length"),
        t("reason.placeholder"),
      ]
    );
  },
  used(reason: string): void {
    const others = this.all().filter((one) => one !== reason);
    writeKept(everyTab, KEY, [reason, ...others].slice(0, MOST));
  },
  drop(reason: string): void {
    writeKept(
      everyTab,
      KEY,
      this.all().filter((one) => one !== reason),
    );
  },
};
