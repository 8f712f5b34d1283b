import { createContext, use } from "react";
import type { Schemas } from "../../api/client";
import type { Person } from "../../session/useSession";
import type { Entries } from "../../sheet/entries";
import type { RowStore } from "../../sheet/rowStore";
import type { CellChanges } from "../../sheet/useCellChanges";
import type { View } from "./useView";

/** What every part of the sheet is about. It stays the same while one moves and types, so that rows are drawn again only for what is in them. */
export interface SheetModel {
  entries: Entries;
  store: RowStore;
  /** The tables of the scope; the head speaks of one by name. */
  tables: Schemas["TableReply"][];
  /** The languages of the columns. */
  languages: Schemas["LanguageReply"][];
  /** Tags of the languages of each table, by its name in addresses; needed where several tables are shown. */
  keptBy: Map<string, Set<string>>;
  me: Person;
  changes: CellChanges;
  view: View;
  onView: (part: Partial<View>) => void;
  onHide: (language: string) => void;
  onSay: (sentence: string) => void;
}

const Model = createContext<SheetModel | null>(null);

/** Gives all parts within it the sheet that they are of. */
export const SheetProvider = Model.Provider;

/** The sheet that a part is of. */
export function useSheet(): SheetModel {
  const model = use(Model);
  if (!model) throw new Error("This part stands in no sheet.");
  return model;
}
