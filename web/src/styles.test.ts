import { describe, expect, it } from "vitest";

const components = import.meta.glob<string>(["./**/*.tsx", "!./**/*.test.tsx"], {
  query: "?raw",
  import: "default",
  eager: true,
});
const sheets = import.meta.glob<string>("./features/**/*.css", { query: "?raw", import: "default", eager: true });

function folderOf(path: string): string {
  return path.slice(0, path.lastIndexOf("/"));
}

/** The folders in which each class is given to an element, by the class. */
function givenIn(): Map<string, Set<string>> {
  const given = new Map<string, Set<string>>();
  for (const [path, code] of Object.entries(components)) {
    const attributes = code.match(/className=(?:"[^"]*"|\{(?:[^{}]|\{[^{}]*\})*\})/g) ?? [];
    const words = attributes.flatMap((text) => text.match(/["`][^"`]*["`]/g) ?? []);
    for (const name of words.flatMap((text) => text.match(/[A-Za-z][\w-]*/g) ?? [])) {
      given.set(name, (given.get(name) ?? new Set()).add(folderOf(path)));
    }
  }
  return given;
}

function selectorsOf(css: string): string[] {
  return [...css.replace(/\/\*[\s\S]*?\*\//g, "").matchAll(/([^{}]+)\{/g)]
    .map((found) => found[1]?.trim() ?? "")
    .filter((selector) => !selector.startsWith("@"))
    .flatMap((selector) => selector.split(/,(?![^(]*\))/))
    .map((selector) => selector.trim())
    .filter((selector) => selector !== "" && !/^(\d+%|from|to)$/.test(selector));
}

// A class has one name for the whole page. What a feature's sheet says must reach nothing of another feature, in whatever order they are fetched.
describe("the style sheets of the features", () => {
  const given = givenIn();

  it("are found", () => expect(Object.keys(sheets).length).toBeGreaterThan(10));

  it.each(Object.entries(sheets))("%s speaks of nothing that stands elsewhere", (path, css) => {
    const own = (name: string) => [...(given.get(name) ?? [])].every((folder) => folder === folderOf(path));
    const reaching = selectorsOf(css).filter(
      (selector) => !(selector.match(/\.[A-Za-z][\w-]*/g) ?? []).some((name) => own(name.slice(1))),
    );
    expect(reaching).toEqual([]);
  });
});
