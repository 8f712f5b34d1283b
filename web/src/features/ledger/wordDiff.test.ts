import { describe, expect, it } from "vitest";
import { wordDiff } from "./wordDiff";

const SIGN = { same: "", gone: "-", new: "+" };

describe("wordDiff", () => {
  it.each([
    ["Ramp blocked at hinge", "Ramp blocked by vehicle", "Ramp blocked |-at hinge|+by vehicle"],
    ["Pay now", "Pay now", "Pay now"],
    ["", "New", "+New"],
    ["Old", "", "-Old"],
  ])("%j to %j", (before, after, shown) => {
    const runs = wordDiff(before, after);
    // The space between two changed words may belong to either side.
    const joined = runs
      .filter((run) => run.kind !== "gone")
      .map((run) => run.text)
      .join("");
    expect(joined).toBe(after);
    expect(
      runs
        .filter((run) => run.kind !== "new")
        .map((run) => run.text)
        .join(""),
    ).toBe(before);
    if (runs.length <= 3) expect(runs.map((run) => SIGN[run.kind] + run.text).join("|")).toBe(shown);
  });

  it("segments scripts without spaces", () => {
    expect(
      wordDiff("車両で塞がれています", "船で塞がれています")
        .filter((run) => run.kind === "same")
        .map((run) => run.text)
        .join(""),
    ).toContain("塞がれています");
  });
});
