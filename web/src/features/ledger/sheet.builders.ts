import { vi } from "vitest";
import { aLanguage, aPerson, aTable } from "../../test/builders";
import { Entries } from "../../sheet/entries";
import { RowStore } from "../../sheet/rowStore";
import type { SheetModel } from "./sheetModel";

/** A sheet of ten entries in German, without rows. */
export function aSheet(part: Partial<SheetModel> = {}): SheetModel {
  const languages = part.languages ?? [aLanguage("de", "German")];
  return {
    entries: Entries.of({ deltas: Array.from({ length: 10 }, () => 1), sections: [] }),
    store: new RowStore(
      languages.map((kept) => kept.language.tag),
      vi.fn(),
    ),
    tables: [aTable()],
    languages,
    keptBy: new Map(),
    me: aPerson({ coordinator: true }),
    changes: { change: vi.fn(), many: vi.fn() },
    view: { compact: false, signs: false, widths: {}, folded: [] },
    onView: vi.fn(),
    onHide: vi.fn(),
    onSay: vi.fn(),
    ...part,
  };
}
