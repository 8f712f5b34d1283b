import { beforeEach, expect, it } from "vitest";
import { unsaved } from "./unsaved";

beforeEach(() => {
  localStorage.clear();
  unsaved.belongTo(5);
});

it("keeps texts by entry and language until the server has them", () => {
  unsaved.keep({ entry: 7, language: "pt-BR", text: "Olá. Tudo bem?" });
  const sending = { action: "PENCIL", version: 3 };
  unsaved.keep({ entry: 7, language: "de", text: "Hallo", forms: { one: "Hallo" }, sending });
  localStorage.setItem("something.else", "x");
  expect(unsaved.all().sort((a, b) => a.language.localeCompare(b.language))).toEqual([
    { entry: 7, language: "de", text: "Hallo", forms: { one: "Hallo" }, sending },
    { entry: 7, language: "pt-BR", text: "Olá. Tudo bem?" },
  ]);
  unsaved.drop(7, "de");
  expect(unsaved.all()).toHaveLength(1);
});

it("shows nobody the texts of another who uses the same browser", () => {
  unsaved.keep({ entry: 7, language: "de", text: "Meins" });
  unsaved.belongTo(6);
  expect(unsaved.all()).toEqual([]);
  unsaved.belongTo(5);
  expect(unsaved.all()).toHaveLength(1);
});
