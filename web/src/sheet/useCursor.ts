import { useCallback, useMemo, useState } from "react";
import type { Entries } from "./entries";
import { destination, type Command, type Place } from "./keyboard";
import { isNumber, readKept, thisTab, writeKept } from "./outbox/browserStore";
import { blockOf, type Block } from "./selection";

export interface Cursor {
  place: Place;
  /** The chosen cells, the one under the cursor among them. */
  block: Block;
  /** Goes to a place; what is chosen goes along unless it is extended. */
  move: (to: Place, extend?: boolean) => void;
  /** Chooses the block between two corners, of which the second has the cursor. */
  choose: (from: Place, to: Place) => void;
  /** Follows a command that leads from place to place; false when it leads out of the sheet. A page is as high as `pageRows`. */
  go: (command: Command, pageRows?: number) => boolean;
}

/**
 * Where one is in the sheet; this tab remembers it.
 *
 * @param columns - number of languages
 * @param at - the entry to begin at, 0 for where one was before a reload
 * @param memory - the key that the place is kept under
 */
export function useCursor(entries: Entries, columns: number, at: number, memory: string): Cursor {
  const [{ place, anchor }, setWhere] = useState(() => {
    const first = begin(at, memory, entries);
    return { place: first, anchor: first };
  });
  const choose = useCallback(
    (from: Place, to: Place) => {
      setWhere({ anchor: from, place: to });
      writeKept(thisTab, memory, entries.ids[to.row] ?? 0);
    },
    [memory, entries],
  );
  const move = useCallback(
    (to: Place, extend = false) => {
      setWhere((before) => ({ anchor: extend ? before.anchor : to, place: to }));
      writeKept(thisTab, memory, entries.ids[to.row] ?? 0);
    },
    [memory, entries],
  );
  const block = useMemo(() => blockOf(anchor, place), [anchor, place]);
  const go = useCallback(
    (command: Command, pageRows = 1) => {
      const to = destination(command, place, entries.size, columns, pageRows);
      if (!to) return false;
      move({ ...to, row: entries.seen(to.row, to.row < place.row ? -1 : 1) }, "extend" in command && command.extend);
      return true;
    },
    [place, entries, columns, move],
  );
  return useMemo(() => ({ place, block, move, choose, go }), [place, block, move, choose, go]);
}

/** The entry asked for, else the place where one was in these tables before a reload, if it is still in the scope. */
function begin(at: number, memory: string, entries: Entries): Place {
  const id = at || (readKept(thisTab, memory, isNumber) ?? 0);
  const row = id ? entries.ids.indexOf(id) : -1;
  return { row: Math.max(0, row), column: 0 };
}
