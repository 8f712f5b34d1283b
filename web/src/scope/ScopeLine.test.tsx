import { cleanup, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it, vi } from "vitest";
import { aLanguage, aTable, show } from "../test/builders";
import { readScope, type Scope } from "./scope";
import { ScopeLine } from "./ScopeLine";

const tables = [
  aTable(),
  aTable({ id: 2, slug: "deckside", name: "Deckside", languages: [aLanguage("ja", "Japanese")] }),
];

function line(address: string) {
  const onScope = vi.fn<(scope: Scope) => void>();
  show(<ScopeLine scope={readScope(new URLSearchParams(address))} tables={tables} products={[]} onScope={onScope} />);
  return onScope;
}

describe("the scope line", () => {
  it("is one sentence", () => {
    line("table=ramp-panel&in=de,fi&only=stale,untranslated&words=hinge");
    expect(screen.getByRole("heading")).toHaveTextContent(
      "Reading Ramp panel in German, Finnish, only what is stale or untranslated, by section, with “hinge” ×",
    );
  });

  it("adds and removes a language in the table's order, but never the last", async () => {
    const onScope = line("table=ramp-panel&in=fi");
    await userEvent.click(screen.getByRole("button", { name: /^Languages/ }));
    await userEvent.click(screen.getByText("German"));
    expect(onScope).toHaveBeenLastCalledWith(expect.objectContaining({ languages: ["de", "fi"] }));
    onScope.mockClear();
    await userEvent.click(screen.getAllByText("Finnish")[1] as HTMLElement);
    expect(onScope).not.toHaveBeenCalled();
  });

  it("keeps the languages that the next table has, else takes its first", async () => {
    const onScope = line("table=ramp-panel&in=fi&intake=3");
    await userEvent.click(screen.getByRole("button", { name: /^Table/ }));
    await userEvent.click(screen.getByText("Deckside"));
    expect(onScope).toHaveBeenCalledWith(
      expect.objectContaining({ tables: ["deckside"], languages: ["ja"], intake: null }),
    );
  });

  it("drops the words looked for", async () => {
    const onScope = line("table=ramp-panel&in=de&words=hinge");
    await userEvent.click(screen.getByRole("button", { name: /leave out/ }));
    expect(onScope).toHaveBeenCalledWith(expect.objectContaining({ words: "" }));
  });

  it("speaks of every table, of several, and of a product", () => {
    line("in=de");
    expect(screen.getByRole("heading")).toHaveTextContent("Reading every table in German");
    cleanup();
    line("table=ramp-panel,deckside&in=ja");
    expect(screen.getByRole("heading")).toHaveTextContent("Reading Ramp panel, Deckside in Japanese");
  });
});
