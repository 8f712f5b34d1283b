import { describe, expect, it } from "vitest";
import { sums } from "./sums";
import type { Group, Preview } from "./useIntake";

function group(kind: Group["kind"], chosen: Group["chosen"]): Group {
  const count = Object.values(chosen).reduce((sum, n) => sum + (n ?? 0), 0);
  return { kind, count, chosen, choices: [], usual: "TAKE", lines: [] };
}

function preview(groups: Group[], part: Partial<Preview> = {}): Preview {
  return {
    groups,
    settled: 0,
    offered: 0,
    pencilled: 0,
    stale: {},
    unchanged: 0,
    problems: [],
    problemCount: 0,
    ...part,
  };
}

describe("what an intake does altogether", () => {
  it("counts what is decided and not what is found", () => {
    const all = sums(
      preview([
        group("NEW_ENTRIES", { TAKE: 3, KEEP: 2 }),
        group("RENAMED", { BOTH: 1, RENAME: 4, REPLACE: 1 }),
        group("SOURCES_REWRITTEN", { CHANGED: 2, FIX: 1, KEEP: 7 }),
        group("GONE_FROM_FILE", { REMOVE: 2, KEEP: 9 }),
      ]),
    );
    expect(all).toEqual([
      { name: "new entries", n: 5 },
      { name: "sources rewritten", n: 3 },
      { name: "entries removed", n: 3 },
    ]);
  });

  it("adds up what goes stale over the languages", () => {
    expect(sums(preview([], { stale: { de: 2, fi: 1 }, settled: 1 }))).toEqual([
      { name: "text settled", n: 1 },
      { name: "go stale", n: 3 },
    ]);
  });

  it("says nothing where nothing happens", () => {
    expect(sums(preview([group("CONFLICTS", { KEEP: 5 })]))).toEqual([]);
  });
});
