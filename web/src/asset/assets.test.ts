import { expect, it } from "vitest";
import { assetKind, factsWords, lengthWords, sizeWords } from "./assets";
import { bars, BARS } from "./waveform";

it.each([
  ["a.PNG", "picture"],
  ["a.b.svg", "picture"],
  ["a.opus", "sound"],
  ["a.txt", "other"],
  ["png", "other"],
  [undefined, "other"],
])("sees what %s is", (name, kind) => {
  expect(assetKind(name)).toBe(kind);
});

it.each([
  [0, "0:00.0"],
  [2_449, "0:02.4"],
  [59_960, "1:00.0"],
  [61_500, "1:01.5"],
])("says how long %i milliseconds are", (milliseconds, words) => {
  expect(lengthWords(milliseconds)).toBe(words);
});

it("says how large a file is", () => {
  expect([sizeWords(12), sizeWords(12_400), sizeWords(3_500_000)]).toEqual(["12 bytes", "12 KB", "3.3 MB"]);
});

it("says what a picture or sound is in a line", () => {
  const picture = { kind: "png", bytes: 2048, width: 96, height: 64, milliseconds: 0 };
  expect(factsWords(picture)).toBe("PNG · 96 × 64 · 2 KB");
  expect(factsWords({ ...picture, kind: "ogg", width: 0, height: 0, milliseconds: 1500 })).toBe("OGG · 0:01.5 · 2 KB");
  expect(factsWords({ ...picture, kind: "svg", width: 0 })).toBe("SVG · 2 KB");
});

it("draws the loudest of each step beside the loudest of all", () => {
  const samples = new Float32Array(BARS * 10);
  samples[0] = -0.5;
  samples[BARS * 10 - 1] = 0.25;
  const heights = bars(samples);
  expect(heights).toHaveLength(BARS);
  expect([heights[0], heights[1], heights.at(-1)]).toEqual([1, 0, 0.5]);
  expect(bars(new Float32Array(3)).every((height) => height === 0)).toBe(true);
});
