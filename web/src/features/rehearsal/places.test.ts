import { describe, expect, it } from "vitest";
import { paintedIn } from "./colours";
import {
  boxCommand,
  boxesIn,
  drawingOf,
  edgesOf,
  moved,
  pictureIn,
  resized,
  snapped,
  within,
  type Box,
  sampleIn,
  sampleSaid,
} from "./places";

const box = (part: Partial<Box> = {}): Box => ({
  key: "ramp.title",
  x: 20,
  y: 30,
  width: 100,
  height: 40,
  lines: 1,
  size: 16,
  align: "middle",
  color: "#ffffff",
  cover: "#102030",
  keeps: false,
  latinDigits: false,
  sample: {},
  ...part,
});

describe("boxes", () => {
  it("stay within the picture, of whole pixels and not too small", () => {
    expect(within(box({ x: -5.4, y: 290 }), 400, 300)).toMatchObject({ x: 0, y: 260, width: 100, height: 40 });
    expect(within(box({ width: 2, height: 900 }), 400, 300)).toMatchObject({ width: 8, height: 300, y: 0 });
  });

  it("jump to an edge that is near, with either side", () => {
    expect(snapped(18, [20, 100])).toBe(20);
    expect(snapped(15, [20, 100])).toBe(15);
    const edges = edgesOf([box()], 400, 300);
    const other = box({ x: 200, y: 100, width: 50 });
    expect(moved(other, -77, 0, edges).x).toBe(120);
    expect(moved(other, -52, 0, edges).x).toBe(148);
    expect(moved(other, -128, 0, edges).x, "its end on the other's end").toBe(70);
    expect(moved(other, -77, 0, null).x).toBe(123);
    expect(resized(box({ x: 20, y: 200 }), 3, 58, edges)).toMatchObject({ width: 100, height: 100 });
    expect(resized(box(), -500, -500, edges)).toMatchObject({ width: 8, height: 8 });
  });

  it.each([
    [{ key: "ArrowLeft" }, { do: "move", dx: -1, dy: 0 }],
    [
      { key: "ArrowDown", shiftKey: true },
      { do: "move", dx: 0, dy: 10 },
    ],
    [
      { key: "ArrowRight", altKey: true },
      { do: "resize", dx: 1, dy: 0 },
    ],
    [{ key: "d", ctrlKey: true }, { do: "copy" }],
    [{ key: "Delete" }, { do: "remove" }],
    [{ key: "Enter" }, { do: "name" }],
    [{ key: "ArrowLeft", ctrlKey: true }, null],
    [{ key: "d" }, null],
    [{ key: "Tab" }, null],
  ])("obey %o", (key, command) => {
    const none = { ctrlKey: false, metaKey: false, altKey: false, shiftKey: false };
    expect(boxCommand({ ...none, ...key })).toEqual(command);
  });
});

describe("a picture with boxes", () => {
  const picture = { href: "data:image/png;base64,AAAA", width: 400, height: 300 };

  it("is kept as a drawing and read from it again", () => {
    const boxes = [
      box(),
      box({
        key: 'a"<b>',
        align: "end",
        lines: 2,
        keeps: true,
        latinDigits: true,
        sample: { n: "5", name: "Aino" },
        y: 100,
      }),
    ];
    const drawing = drawingOf(picture, boxes);
    expect(pictureIn(drawing)).toBe(picture.href);
    // As the server hands it out: keys are in the list of places, and the drawing has their numbers.
    let number = 0;
    const cleaned = drawing.replaceAll(/data-entry="[^"]*"/g, () => `data-place="${++number}"`);
    const places = boxes.map((one, i) => ({
      number: i + 1,
      key: one.key,
      lines: one.lines,
      size: one.size,
      align: one.align === "end" ? ("END" as const) : ("MIDDLE" as const),
      keepsDirection: one.keeps,
      latinDigits: one.latinDigits,
      with: one.sample,
    }));
    expect(boxesIn(cleaned, places)).toEqual(boxes);
  });

  it("has sample values as they are typed", () => {
    expect(sampleIn('n=5, name = Aino "the" first,=3')).toEqual({ n: "5", name: "Aino the first" });
    expect(sampleIn("nothing, amount=84, EUR")).toEqual({ amount: "84, EUR" });
    const sample = { amount: "84, EUR", n: "2" };
    expect(sampleIn(sampleSaid(sample))).toEqual(sample);
    expect(sampleSaid({ n: "5", name: "Aino" })).toBe("n=5, name=Aino");
  });

  it("is none where a drawing has no marked picture", () => {
    expect(pictureIn('<svg xmlns="http://www.w3.org/2000/svg"><image href="data:x"/></svg>')).toBeNull();
  });
});

describe("what a text is painted with", () => {
  const pixels = (width: number, height: number, colour: (x: number, y: number) => [number, number, number]) => ({
    width,
    height,
    data: Array.from({ length: width * height }, (_, i) => [...colour(i % width, Math.floor(i / width)), 255]).flat(),
  });

  it("is the colour of its edge, and the farthest from it inside", () => {
    const words = pixels(40, 20, (x, y) => (x > 10 && x < 30 && y > 8 && y < 12 ? [240, 240, 240] : [32, 48, 64]));
    expect(paintedIn(words)).toEqual({ cover: "#203040", color: "#f0f0f0" });
  });

  it("contrasts where nothing is painted, and one stray pixel is nothing", () => {
    expect(paintedIn(pixels(40, 20, () => [0, 0, 0]))).toEqual({ cover: "#000000", color: "#ffffff" });
    const stray = pixels(40, 20, (x, y) => (x === 5 && y === 5 ? [255, 0, 0] : [255, 255, 255]));
    expect(paintedIn(stray)).toEqual({ cover: "#ffffff", color: "#000000" });
  });
});
