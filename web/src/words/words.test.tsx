import { render, screen } from "@testing-library/react";
import { afterEach, describe, expect, it } from "vitest";
import english from "./en.json";
import { keysSaid } from "./keys";
import { pretend } from "./pretend";
import { speak } from "./spoken";
import { anyOf, count, day, languageName, listed, nameOfTag, percent, t, when, type WordKey } from "./words";
import { Words } from "./Words";

afterEach(() => speak("en", english));

describe("the interface's words", () => {
  it("takes the plural form of n and formats numbers", () => {
    expect(t("scope.entries", { n: 1 })).toBe("1 entry");
    expect(t("scope.entries", { n: 12500 })).toBe("12,500 entries");
    expect(t("ledger.some", { n: 214, shown: 38 })).toBe("38 of 214 entries");
  });

  it("fills in places and leaves text alone that looks like one", () => {
    expect(t("scope.with", { words: "{n}" })).toBe("with \u201c{n}\u201d");
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

  it("says a day and an hour when it was long ago", () => {
    expect(when("2026-10-12T14:05:00", new Date("2026-11-23T12:00:00").getTime())).toBe("12 Oct 2026, 14:05");
  });

  it("has a singular wherever it has a plural, and the same places in both", () => {
    const words: Record<string, string> = english;
    const places = (pattern: string) => [...new Set(pattern.match(/\{\w+\}/g))].sort();
    for (const [key, other] of Object.entries(words)) {
      const one = words[key.replace(/\.other$/, ".one")];
      if (!key.endsWith(".other")) continue;
      expect(one, key).toBeDefined();
      // A singular may say its number in words, and needs no list of one.
      expect(places(other), key).toEqual(expect.arrayContaining(places(one ?? "")));
    }
  });
});

describe("a sentence with things in it", () => {
  it("puts each where the language has it", () => {
    speak("de", { "scope.counted": "{unit} in {languages} aus {tables}" });
    render(<Words of="scope.counted" slots={{ tables: <b>Ramp</b>, languages: <i>two</i>, unit: <u>Words</u> }} />);
    expect(screen.getByText("Words").parentElement).toHaveTextContent("Words in two aus Ramp");
  });

  it("takes words and numbers beside them", () => {
    const { container } = render(
      <Words of="intake.nFiles" values={{ n: 1200 }} slots={{ pattern: <code>*.yml</code> }} />,
    );
    expect(container).toHaveTextContent("1,200 files *.yml");
  });
});

describe("another language of the interface", () => {
  it("says what it has in its own words, and the rest in English", () => {
    speak("pl", { "counts.left.few": "zosta\u0142y {n}", "counts.left.many": "zosta\u0142o {n}", close: "Zamknij" });
    expect(t("close")).toBe("Zamknij");
    expect(t("counts.left", { n: 3 })).toBe("zosta\u0142y 3");
    expect(t("counts.left", { n: 5 })).toBe("zosta\u0142o 5");
    expect(t("scope.entries", { n: 1 })).toBe("1 entry");
    expect(document.documentElement.lang).toBe("pl");
  });

  it("has its own numbers, shares, lists, dates and names of languages", () => {
    speak("de", {});
    expect(count(12500)).toBe("12.500");
    expect(percent(38)).toBe("38\u00a0%");
    expect(listed(["Finnisch", "Estnisch"])).toBe("Finnisch, Estnisch");
    expect(anyOf(["alt", "neu"])).toBe("alt oder neu");
    expect(day("2026-10-12")).toBe("12. Okt. 2026");
    expect(languageName({ tag: "fi", englishName: "Finnish" })).toBe("Finnisch");
    expect(languageName({ tag: "x-helm", englishName: "Helm talk" })).toBe("Helm talk");
  });

  it("knows a language by what people call it, else by the standards, else by its tag", () => {
    const own = { language: { tag: "fi", englishName: "Finnish of the ferries" } };
    expect(nameOfTag("fi", [own])).toBe("Finnish of the ferries");
    expect(nameOfTag("pt-BR")).toBe("Portuguese (Brazil)");
    expect(nameOfTag("not one")).toBe("not one");
  });

  it("names the keys of its keyboards", () => {
    speak("de", { "key.Ctrl": "Strg", "key.Page Up": "Bild auf" });
    expect(keysSaid("Ctrl+Home, Page Up")).toBe("Strg+Home, Bild auf");
  });
});

describe("the pretend language", () => {
  it("has no plain letter in any message, and every place", () => {
    const words: Record<string, string> = english;
    for (const [key, pattern] of Object.entries(pretend(words))) {
      expect(pattern?.replace(/\{\w+\}/g, ""), key).not.toMatch(/[A-Za-z]/);
      expect(pattern?.match(/\{\w+\}/g), key).toEqual((words[key] ?? "").match(/\{\w+\}/g));
    }
  });

  it("is a third longer, as other languages often are", () => {
    expect(pretend({ close: "Close" }).close).toHaveLength(7);
  });

  it("is spoken like any other", () => {
    speak("en", pretend(english));
    expect(t("scope.entries" satisfies WordKey, { n: 2 })).toMatch(/^2 \u00e9\u00f1/);
  });
});
