import { t, when } from "../words/words";
import type { Pending } from "./outbox/outbox";
import type { CellView } from "./rowStore";
import type { CellState } from "../scope/scope";
import { formsOf, inOneLine, mainForm, type Forms } from "../text/shapes";

/** What a cell shows: its mark, the text, and a line above it that says why it is not simply settled. */
export interface CellShown {
  state: CellState;
  text: string;
  remark: string;
  tone: "quiet" | "offered" | "stale" | "blocked";
  /** A text that the person sees but the server does not have yet. */
  unsaved: boolean;
}

/** The text that a cell shows, form by form: one's own that is not saved, else the newest offer, else what is in force. Whoever copies, fills, checks or edits takes this. */
export function formsShown(cell: CellView | undefined, pending: Pending | undefined): Forms {
  if (pending) return pending.forms;
  const offer = cell?.state === "offered" ? cell.offers.at(-1) : undefined;
  return offer ? formsOf(offer.text, offer.forms) : formsOf(cell?.text, cell?.forms);
}

/** Decides what a cell shows. The newest open offer stands in for the text in force; the footnotes show both. */
export function cellShown(cell: CellView | undefined, pending: Pending | undefined): CellShown {
  const state = (cell?.state ?? "untranslated") as CellState;
  if (pending) {
    const remark =
      pending.status === "saving"
        ? t("cell.saving")
        : pending.status === "conflict"
          ? t("cell.conflict")
          : pending.status === "waiting"
            ? t("cell.waiting", { why: pending.sentence ?? "" })
            : t("cell.failed", { why: pending.sentence ?? "" });
    return {
      state,
      text: inOneLine(mainForm(pending.forms), pending.forms),
      remark,
      tone: pending.status === "saving" ? "quiet" : "blocked",
      unsaved: true,
    };
  }
  if (!cell) {
    return { state, text: "", remark: "", tone: "quiet", unsaved: false };
  }
  const offer = cell.offers.at(-1);
  const shown = { state, text: inOneLine(cell.text, cell.forms), unsaved: false };
  switch (state) {
    case "offered":
      return {
        ...shown,
        text: offer ? inOneLine(offer.text, offer.forms) : shown.text,
        remark: offer ? t("cell.offered", { n: cell.offers.length, who: offer.author, when: when(offer.at) }) : "",
        tone: "offered",
      };
    case "returned":
      return { ...shown, remark: t("cell.returned", { why: cell.returned ?? "" }), tone: "blocked" };
    case "stale":
      return { ...shown, remark: t("cell.stale"), tone: "stale" };
    case "pencilled":
      return {
        ...shown,
        remark: t(cell.origin === "file" ? "cell.pencilledFile" : "cell.pencilled", { who: cell.author ?? "" }),
        tone: "quiet",
      };
    default:
      return { ...shown, remark: "", tone: "quiet" };
  }
}
