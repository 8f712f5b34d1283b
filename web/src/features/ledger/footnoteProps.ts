import type { Schemas } from "../../api/client";
import type { Person } from "../../session/useSession";
import type { Draft } from "../../text/draft";
import type { RowStore } from "../../sheet/rowStore";
import type { Forms } from "../../text/shapes";
import type { CellChanges } from "../../sheet/useCellChanges";

/** What the notes below the sheet need. */
export interface FootnoteProps {
  store: RowStore;
  entry: number;
  language: Schemas["LanguageReply"];
  me: Person;
  changes: CellChanges;
  /** The text being typed in this cell, null when none is. */
  draft: Draft | null;
  onSay: (sentence: string) => void;
  onAmend: (offer: number, forms: Forms) => void;
  /** Puts a text into the cell's editor. */
  onTake: (forms: Forms) => void;
  /** Entries were made, moved or removed, so the scope has to be read again. */
  onEntries: () => void;
  onClose: () => void;
}
