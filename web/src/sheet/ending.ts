import { MAIN, formsOf, sameForms, type Forms } from "../text/shapes";
import type { WordKey } from "../words/words";
import type { Command } from "./keyboard";
import type { Change } from "./outbox/slip";
import type { Pending } from "./outbox/outbox";
import type { CellView } from "./rowStore";

/** How an editor is left. */
export type EditEnd = "put-forward" | "leave" | "next" | "previous" | "blur";

/** What becomes of a text when its editor is left. */
export type Ending =
  /** It is sent. */
  | { do: "send"; change: Change }
  /** It stays in the browser with the reason. */
  | { do: "keep"; why: WordKey }
  /** One's own text that waited here is gone, and nothing else. */
  | { do: "drop" }
  /** Nothing has changed; there may be something to say about that. */
  | { do: "leave"; say?: WordKey };

/** What an editor is about, and what stands in its cell now. */
export interface Edited {
  initial: Forms;
  /** The offer that is being amended, or null for a text of one's own. */
  amends: number | null;
  plain: boolean;
  cell: CellView | undefined;
  pending: Pending | undefined;
}

/**
 * Decides what becomes of a text.
 *
 * @param forms - the forms that have a text
 * @param me - number of the person, whose own offers they may withdraw
 */
export function endingOf(
  { initial, amends, plain, cell, pending }: Edited,
  forms: Forms,
  how: EditEnd,
  me: number,
): Ending {
  const forward = how === "put-forward";
  const text = plain ? { text: forms[MAIN] ?? "" } : { forms };
  if (Object.keys(forms).length === 0 && (forward || !sameForms(forms, initial))) {
    if (pending?.status === "failed" || pending?.status === "conflict") return { do: "drop" };
    if (pending) return { do: "send", change: { action: "CLEAR" } };
    const away = amends === null ? takenAway(cell, forward, me) : null;
    if (away) return { do: "send", change: away };
    const emptied = !forward && Object.keys(initial).length > 0;
    return emptied ? { do: "leave", say: "cell.emptyStays" } : { do: "leave" };
  }
  if (forward) {
    return {
      do: "send",
      change: amends === null ? { action: "PUT_FORWARD", ...text } : { action: "AMEND", offer: amends, ...text },
    };
  }
  if (sameForms(forms, initial) || sameForms(forms, formsOf(cell?.text, cell?.forms))) return { do: "leave" };
  // Leaving must never replace what is settled; the text waits here until it is put forward or dropped.
  if (cell?.settled) return { do: "keep", why: "cell.notPutForward" };
  return { do: "send", change: { action: "PENCIL", ...text } };
}

/** What emptying a cell means: a draft goes, and so does what one offers oneself; what is settled goes only when one says so, with Enter or Delete. */
export function takenAway(cell: CellView | undefined, forward: boolean, me: number): Change | null {
  const offer = cell?.state === "offered" ? cell.offers.at(-1) : undefined;
  if (offer) return offer.authorId === me ? { action: "WITHDRAW", offer: offer.id } : null;
  if (cell?.text === undefined || (cell.settled && !forward)) return null;
  return { action: "CLEAR" };
}

/** Where the cursor goes after an editor was left; null where it stays. */
export function goesOn(how: EditEnd): Command | null {
  switch (how) {
    case "put-forward":
      return { do: "move", rows: 1, columns: 0 };
    case "next":
      return { do: "step", columns: 1 };
    case "previous":
      return { do: "step", columns: -1 };
    default:
      return null;
  }
}
