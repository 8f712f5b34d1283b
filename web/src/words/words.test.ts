import { describe, expect, it } from "vitest";
import { t, when } from "./words";

describe("the interface's words", () => {
  it("takes the plural form of n and formats numbers", () => {
    expect(t("scope.entries", { n: 1 })).toBe("1 entry");
    expect(t("scope.entries", { n: 12500 })).toBe("12,500 entries");
    expect(t("ledger.some", { n: 214, shown: 38 })).toBe("38 of 214 entries");
  });

  it("fills in places and leaves text alone that looks like one", () => {
    expect(t("scope.with", { words: "{n}" })).toBe("with “{n}”");
  });

  it.each([
    [20_000, "just now"],
    [60_000, "1 minute ago"],
    [59 * 60_000, "59 minutes ago"],
    [3 * 3_600_000, "3 hours ago"],
    [30 * 3_600_000, "yesterday"],
    [9 * 86_400_000, "9 days ago"],
  ])("says when %d ms ago was", (passed, said) => {
    const now = Date.UTC(2026, 10, 23, 12);
    expect(when(new Date(now - passed).toISOString(), now)).toBe(said);
  });
});
