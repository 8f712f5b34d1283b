import { describe, expect, test } from "vitest";
import type { Schemas } from "../../api/client";
import { boxed, drawn, mirror, staysOf, weightOf } from "./drawing";

const place = (number: number, more: Partial<Schemas["ScenePlace"]> = {}) => ({
  number,
  key: `key.${number}`,
  asset: false,
  x: 10,
  y: 20,
  width: 100,
  height: 40,
  lines: 1,
  size: 16,
  align: "START" as const,
  keepsDirection: false,
  latinDigits: false,
  form: "",
  with: {},
  stays: 0,
  ...more,
});

const text = (number: number, lines: string[], codes: string[] = []): Schemas["PlaceText"] => ({
  place: number,
  entry: number,
  table: "panel",
  key: `key.${number}`,
  lines,
  from: "fi",
  borrowed: codes.includes("borrowed"),
  version: 1,
  form: "",
  by: "",
  steps: [],
  findings: codes.map((code) => ({ code, wrong: code !== "borrowed" && code !== "stale", values: {} })),
});

const scene = (inside: string, places: ReturnType<typeof place>[]): Schemas["Played"] => ({
  id: 1,
  name: "Bow",
  version: 1,
  width: 480,
  height: 270,
  drawing: `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 480 270">${inside}</svg>`,
  places,
  choices: [],
  placeholders: {},
  stages: [],
});

const stage = (texts: Schemas["PlaceText"][], rightToLeft = false): Schemas["Stage"] => ({
  language: rightToLeft ? "ar" : "fi",
  name: "",
  rightToLeft,
  pretend: false,
  texts,
});

describe("a drawing", () => {
  test("shows the lines of a text around the middle of its box", () => {
    const svg = drawn(
      scene('<text x="10" y="20" data-place="1"></text>', [place(1, { lines: 3 })]),
      stage([text(1, ["Laske", "ramppi", "nyt"])]),
    );
    expect([...svg.querySelectorAll("tspan")].map((line) => [line.textContent, line.getAttribute("y")])).toEqual([
      ["Laske", "0"],
      ["ramppi", "20"],
      ["nyt", "40"],
    ]);
  });

  test("tells what is wrong by more than a colour", () => {
    const svg = drawn(
      scene('<text data-place="1"/><text data-place="2"/><text data-place="3"/>', [place(1), place(2), place(3)]),
      stage([text(1, ["a"], ["too-wide"]), text(2, ["b"], ["borrowed"]), text(3, ["c"])]),
    );
    expect([...svg.querySelectorAll("text")].map((one) => one.getAttribute("class"))).toEqual([
      "shown wrong",
      "shown mind lent",
      "shown",
    ]);
  });

  test("takes words for words, whatever is in them", () => {
    const svg = drawn(scene('<text data-place="1"/>', [place(1)]), stage([text(1, ["<script>alert(1)</script>"])]));
    expect(svg.querySelector("script")).toBeNull();
    expect(svg.querySelector("tspan")?.textContent).toBe("<script>alert(1)</script>");
  });

  test("is mirrored with its words turned back and what keeps its direction as it was", () => {
    const svg = drawn(
      scene(
        '<g data-keep="ltr"><path d="M0 0"/></g><text x="10" data-place="1"/><text x="30" data-place="2"/><text x="7">14:05</text>',
        [place(1), place(2, { x: 30, keepsDirection: true })],
      ),
      stage([text(1, ["نص"]), text(2, ["12"])], true),
    );
    for (const kept of svg.querySelectorAll("g")) {
      (kept as unknown as { getBBox: () => { x: number; width: number } }).getBBox = () => ({ x: 40, width: 20 });
    }
    mirror(svg, 480);
    expect(svg.firstElementChild?.getAttribute("transform")).toBe("translate(480 0) scale(-1 1)");
    expect(svg.querySelector("[data-keep]")?.getAttribute("transform")).toBe("translate(100 0) scale(-1 1)");
    const [words, kept, plain] = svg.querySelectorAll("text");
    expect(words?.getAttribute("transform")).toBe("translate(20 0) scale(-1 1)");
    expect([words?.getAttribute("direction"), words?.getAttribute("text-anchor")]).toEqual(["rtl", "start"]);
    expect([kept?.getAttribute("direction"), kept?.getAttribute("text-anchor")]).toEqual(["ltr", "end"]);
    expect(plain?.getAttribute("text-anchor")).toBe("end");
  });

  test("draws a box for each letter that the font lacks", () => {
    const lacking = [{ code: "letters-missing", wrong: true, values: { letters: ["ę", "ż"] } }];
    expect(boxed("Zażółć gęś", lacking)).toBe("Za▯ółć g▯ś");
    expect(boxed("Zażółć", [])).toBe("Zażółć");
  });

  test("shows letters in the size of the device, and the lines as far apart", () => {
    const svg = drawn(
      scene('<text x="10" y="20" data-place="1"></text>', [place(1, { lines: 2 })]),
      stage([text(1, ["a", "b"])]),
      { size: 2 },
    );
    expect(svg.querySelector("text")?.getAttribute("font-size")).toBe("32");
    expect([...svg.querySelectorAll("tspan")].map((line) => line.getAttribute("y"))).toEqual(["0", "40"]);
  });

  test("shows a picture of its own in each language, and the name of a sound", () => {
    const shown = { ...text(1, []), asset: { file: 7, name: "ramp.png" } };
    const heard = { ...text(2, []), asset: { file: 8, name: "hello.ogg" } };
    const svg = drawn(
      scene('<image data-place="1"/><text data-place="2"/>', [place(1, { asset: true }), place(2)]),
      stage([shown, heard]),
    );
    expect(svg.querySelector("image")?.getAttribute("href")).toBe("/api/assets/7");
    expect(svg.querySelector("text")?.textContent).toContain("hello.ogg");
  });

  test("shows one turn of a dialogue after the other", () => {
    const drawing = '<g data-stays="2"><text data-stays="9"/></g><g data-stays="3.5"/><rect/>';
    expect(staysOf(scene(drawing, []).drawing)).toEqual({ stays: [2, 3.5], first: 0 });
    const svg = drawn(scene(drawing, []), stage([]), { turn: 1 });
    expect([...svg.querySelectorAll("g")].map((turn) => turn.getAttribute("visibility"))).toEqual([
      "hidden",
      "visible",
    ]);
    const lit = '<g data-stays="2"/><g data-stays="3"><text data-place="1"/></g>';
    expect(staysOf(scene(lit, []).drawing, 1).first).toBe(1);
    const small = drawn(scene(lit, []), stage([]), { still: true, lit: 1 });
    expect(small.querySelector("g")?.getAttribute("visibility"), "the turn with the place").toBe("hidden");
    expect(staysOf(scene("<rect/>", []).drawing)).toEqual({ stays: [], first: 0 });
  });

  test("that is only looked at has nothing to press", () => {
    const svg = drawn(scene('<text data-place="1"/>', [place(1)]), stage([text(1, ["a"])]), { still: true });
    expect(svg.getAttribute("role")).toBe("img");
    expect(svg.querySelector("[role=button], [tabindex]")).toBeNull();
  });

  test("weighs what stops more than what is only to be minded", () => {
    expect(weightOf([])).toBe("");
    expect(weightOf([{ code: "stale", wrong: false, values: {} }])).toBe("mind");
    expect(
      weightOf([
        { code: "stale", wrong: false, values: {} },
        { code: "no-entry", wrong: true, values: {} },
      ]),
    ).toBe("wrong");
  });
});
