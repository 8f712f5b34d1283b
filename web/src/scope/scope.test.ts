import { describe, expect, it } from "vitest";
import { EVERYTHING, readScope, writeScope, type Scope } from "./scope";

describe("a scope in the address", () => {
  it("is the same after a round trip", () => {
    const scope: Scope = {
      tables: ["ramp-panel", "alarms"],
      product: "deckside",
      languages: ["de", "pt-BR"],
      only: ["untranslated", "stale"],
      by: "changed",
      words: "ramp & 50 %",
      section: "Bow, upper",
      tag: "figures",
      person: 12,
      since: "2026-11-01T00:00:00Z",
      intake: 7,
      asked: true,
      check: "blocker",
      code: "unused",
    };
    expect(readScope(new URLSearchParams(writeScope(scope)))).toEqual(scope);
  });

  it("leaves out what it does not know, and what is said twice", () => {
    const scope = readScope(
      new URLSearchParams("table=x&in=de,,de,fi&only=stale,green&by=colour&code=maybe&intake=-1&since=soon&person=me"),
    );
    expect(scope).toEqual({
      ...EVERYTHING,
      tables: ["x"],
      languages: ["de", "fi"],
      only: ["stale"],
    });
  });

  it("is short when it says nothing special", () => {
    expect(writeScope(readScope(new URLSearchParams("table=x")))).toBe("table=x");
  });
});
