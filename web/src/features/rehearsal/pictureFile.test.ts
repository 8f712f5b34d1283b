import { expect, it } from "vitest";
import { fileName, svgFile } from "./pictureFile";

function svg(inside: string): SVGSVGElement {
  const read = new DOMParser().parseFromString(
    `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9">${inside}</svg>`,
    "image/svg+xml",
  );
  return read.documentElement as unknown as SVGSVGElement;
}

it("brings its font along and nothing of other addresses", () => {
  const file = svgFile(
    svg(
      '<text role="button" tabindex="0" data-chosen="">a</text><image href="/api/assets/7"/><image href="data:image/png;base64,x"/>',
    ),
    90,
    45,
    { family: "scene-3", data: "data:font/ttf;base64,AA" },
  );
  expect(file).toContain("@font-face{font-family:scene-3;src:url(data:font/ttf;base64,AA)}");
  expect(file).toContain('width="90" height="45"');
  expect(file).not.toMatch(/api\/assets|tabindex|role=|data-chosen/);
  expect(file).toContain("data:image/png;base64,x");
});

it("names files as every system takes them", () => {
  expect(fileName("Bow ramp / 2", "fi")).toBe("Bow-ramp-2_fi");
  expect(fileName("../甲板", "ja")).toBe("..-甲板_ja");
});
