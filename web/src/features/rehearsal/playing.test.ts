import { describe, expect, it } from "vitest";
import type { Schemas } from "../../api/client";
import { askedIn, findingsNow, formsBy, playedQuery, shownLanguages } from "./playing";

describe("what is played", () => {
  it("puts the language that the product answered with first", () => {
    expect(shownLanguages(["fi", "pl"], null)).toEqual(["fi", "pl"]);
    expect(shownLanguages(["fi", "pl"], "de")).toEqual(["de", "pl"]);
    expect(shownLanguages(["fi", "pl"], "pl")).toEqual(["pl"]);
    expect(shownLanguages([], "pl")).toEqual(["pl"]);
    expect(shownLanguages(["a", "b", "c", "d", "e"], null)).toHaveLength(4);
  });

  it.each([
    ["asked=number:7", { how: "number", asked: "7" }],
    ["asked=address:ferry.example:8080/fi", { how: "address", asked: "ferry.example:8080/fi" }],
    ["asked=number:", null],
    ["asked=tag:fi", null],
    ["", null],
  ])("reads %s", (query, asked) => {
    expect(askedIn(new URLSearchParams(query))).toEqual(asked);
  });

  it("asks the server for nothing but what it knows", () => {
    const query = new URLSearchParams("in=fi&asked=number:4&play=settled&with=n=2&with=a=1&at=3&size=150");
    expect(playedQuery(query, ["pl"])).toBe("in=pl&play=settled&with=n%3D2&with=a%3D1&size=150");
  });

  it("tells what is wrong as it is played now, and of other languages as it is kept", () => {
    const finding = (code: string) => ({ code, wrong: code !== "stale", values: {} });
    const text = (place: number, ...codes: string[]) => ({ place, key: `key.${place}`, findings: codes.map(finding) });
    const played = {
      id: 3,
      name: "Bow",
      choices: [{ place: 9, name: "alarm.", list: true, values: [], now: "alarm.fire" }],
      stages: [{ language: "en-XA", texts: [text(1, "stale"), text(2, "too-wide")] }],
    } as unknown as Schemas["Played"];
    const kept = (language: string) => ({
      scene: 3,
      name: "Bow",
      language,
      place: 1,
      key: "key.1",
      finding: finding("x"),
    });
    expect(
      findingsNow(played, [kept("fi"), kept("en-XA")]).map((one) => [one.language, one.key, one.finding.code]),
    ).toEqual([
      ["en-XA", "key.2", "too-wide"],
      ["en-XA", "key.1", "stale"],
      ["fi", "key.1", "x"],
    ]);
    const listed = (key: string) => ({ ...kept("en-XA"), place: 9, key });
    const others = findingsNow(played, [listed("alarm.fire"), listed("alarm.flood")]).map(({ key }) => key);
    expect(others, "of a list, what is not played is as it is kept").toEqual(["key.2", "key.1", "alarm.flood"]);
  });

  it("tells the forms that hang on a value", () => {
    const stage = (language: string, ...texts: [string, string][]) =>
      ({ language, texts: texts.map(([by, form]) => ({ by, form })) }) as Schemas["Stage"];
    expect(formsBy([stage("pl", ["n", "few"], ["n", "few"], ["m", "one"]), stage("fi", ["", "other"])], "n")).toEqual([
      { language: "pl", forms: ["few"] },
    ]);
  });
});
