import { expect, it } from "vitest";
import { unsaved } from "./unsaved";

it("keeps texts by entry and language until the server has them", () => {
  unsaved.keep(7, "pt-BR", "Olá. Tudo bem?");
  unsaved.keep(7, "de", "Hallo", { one: "Hallo" });
  localStorage.setItem("something.else", "x");
  expect(unsaved.all().sort((a, b) => a.language.localeCompare(b.language))).toEqual([
    { entry: 7, language: "de", text: "Hallo", forms: { one: "Hallo" } },
    { entry: 7, language: "pt-BR", text: "Olá. Tudo bem?" },
  ]);
  unsaved.drop(7, "de");
  expect(unsaved.all()).toHaveLength(1);
});
