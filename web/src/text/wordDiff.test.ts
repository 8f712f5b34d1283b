import { describe, expect, it } from "vitest";
import { wordDiff, type DiffRun } from "./wordDiff";

const SIGN = { same: "", gone: "-", new: "+" };

describe("wordDiff", () => {
  it.each([
    ["Ramp blocked at hinge", "Ramp blocked by vehicle", "Ramp blocked |-at hinge|+by vehicle"],
    ["Pay now", "Pay now", "Pay now"],
    ["", "New", "+New"],
    ["Old", "", "-Old"],
    ["Tank %1$s: %2$d %%", "Tank %1$s is %2$d %% full", "Tank %1$s|-:| |+is |%2$d %%|+ full"],
    ["Deck {deck}", "Deck {number}", "Deck |-{deck}|+{number}"],
    ["one two three", "one 2 three", "one |-two|+2| three"],
  ])("%j to %j", (before, after, shown) => {
    const runs = wordDiff(before, after);
    const side = (without: DiffRun["kind"]) =>
      runs
        .filter((run) => run.kind !== without)
        .map((run) => run.text)
        .join("");
    expect(side("gone")).toBe(after);
    expect(side("new")).toBe(before);
    expect(runs.map((run) => SIGN[run.kind] + run.text).join("|")).toBe(shown);
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
