import { zipSync } from "fflate";
import { expect, it } from "vitest";
import { onlyScenes } from "./onlyScenes";

const file = (name: string, content: BlobPart = "x") => ({ path: name, file: new File([content], name) });
const archive = (...names: string[]) =>
  file("drawn.zip", zipSync(Object.fromEntries(names.map((name) => [name, new Uint8Array([1])]))) as BlobPart);

it.each([
  ["drawings and pictures", [file("Bow ramp.svg"), file("Map.PNG")], true],
  ["an archive of them", [archive("panel/Bow ramp.svg", "panel/Map.jpg", "__MACOSX/._Map.jpg")], true],
  ["one of them beside texts", [file("Bow ramp.svg"), file("fi.po")], false],
  ["an archive with texts", [archive("Bow ramp.svg", "fi.po")], false],
  ["an archive of nothing", [archive(".DS_Store")], false],
  ["what is no archive", [file("drawn.zip")], false],
  ["nothing", [], false],
])("knows %s", async (_, files, scenes) => {
  expect(await onlyScenes(files)).toBe(scenes);
});
