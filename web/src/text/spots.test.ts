import { describe, expect, it } from "vitest";
import type { Schemas } from "../api/client";
import { runs, spotsIn } from "./spots";

const finding = (start: number, end: number, severity = "warning", form = "other"): Schemas["FindingReply"] => ({
  kind: "spaces",
  code: "space-doubled",
  severity,
  form,
  sentence: "Two spaces in a row.",
  values: {},
  start,
  end,
});

describe("spots", () => {
  it("are the findings of one form that have a place", () => {
    const all = [finding(1, 3), finding(-1, -1), finding(0, 2, "blocker", "one"), finding(4, 4)];
    expect(spotsIn(all, "other")).toEqual([{ start: 1, end: 3, blocks: false }]);
    expect(spotsIn(all, "one")).toEqual([{ start: 0, end: 2, blocks: true }]);
  });

  it.each([
    ["none", [], ["abcdef:-"]],
    ["one within", [[2, 4]], ["ab:-", "cd:warning", "ef:-"]],
    ["one over all", [[0, 6]], ["abcdef:warning"]],
    [
      "two that overlap",
      [
        [0, 3],
        [2, 5, true],
      ],
      ["ab:warning", "c:blocker", "de:blocker", "f:-"],
    ],
    ["one beyond the end", [[4, 99]], ["abcd:-", "ef:warning"]],
    ["one behind the text", [[9, 12]], ["abcdef:-"]],
  ] as [string, [number, number, boolean?][], string[]][])("cut a text: %s", (_, spots, wanted) => {
    const cut = runs(
      "abcdef",
      spots.map(([start, end, blocks = false]) => ({ start, end, blocks })),
    );
    expect(cut.map((run) => `${run.text}:${run.found ?? "-"}`)).toEqual(wanted);
  });

  it("leave an empty text empty", () => {
    expect(runs("", [{ start: 0, end: 2, blocks: true }])).toEqual([]);
  });
});
