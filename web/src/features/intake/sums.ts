import { t } from "../../words/words";
import type { Choice, Preview } from "./useIntake";

export interface Sum {
  name: string;
  n: number;
}

/** How many lines of those kinds are decided in one of those ways. */
function decided(preview: Preview, kinds: string[], choices: Choice[]): number {
  return preview.groups
    .filter((group) => kinds.includes(group.kind))
    .reduce((sum, group) => sum + choices.reduce((n, choice) => n + (group.chosen[choice] ?? 0), 0), 0);
}

/** What an intake does altogether, as decided now; what is nothing is left out. */
export function sums(preview: Preview): Sum[] {
  const stale = Object.values(preview.stale).reduce((sum, n) => sum + n, 0);
  const all: [Parameters<typeof t>[0], number][] = [
    [
      "sum.NEW",
      decided(preview, ["NEW_ENTRIES"], ["TAKE"]) + decided(preview, ["RENAMED", "REWORDED"], ["BOTH", "REPLACE"]),
    ],
    [
      "sum.sources",
      decided(preview, ["SOURCES_REWRITTEN", "REWORDED", "SOURCE_CONFLICTS", "EDITED_HERE"], ["CHANGED", "FIX"]),
    ],
    ["sum.settled", preview.settled],
    ["sum.offered", preview.offered],
    ["sum.pencilled", preview.pencilled],
    [
      "sum.removed",
      decided(preview, ["GONE_FROM_FILE"], ["REMOVE"]) + decided(preview, ["RENAMED", "REWORDED"], ["REPLACE"]),
    ],
    ["sum.stale", stale],
  ];
  return all.filter(([, n]) => n > 0).map(([key, n]) => ({ name: t(key, { n }), n }));
}
