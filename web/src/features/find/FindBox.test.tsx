import { screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { useLocation } from "react-router";
import { describe, expect, it, vi } from "vitest";
import { show } from "../../test/builders";
import { serve } from "../../test/server";
import { FindBox } from "./FindBox";

function Where() {
  const { pathname, search } = useLocation();
  return <output>{pathname + search}</output>;
}

const found = {
  entries: [
    { entry: 7, table: "ramp-panel", tableName: "Ramp panel", key: "ramp.up", words: "Ramp up" },
    { entry: 9, table: "deckside", tableName: "Deckside", key: "door", words: "منحدر", language: "ar" },
  ],
  people: [{ id: 5, name: "Rauha Lind" }],
};

function open() {
  const asked = serve({ "GET /api/find": found });
  show(
    <>
      <FindBox scope={undefined} />
      <Where />
    </>,
  );
  return asked;
}

const where = () => document.querySelector("output")?.textContent;

describe("the find box", () => {
  it("is under the slash key, but not while one types elsewhere", async () => {
    open();
    await userEvent.keyboard("/");
    expect(screen.getByRole("combobox", { name: "Find" })).toHaveFocus();
    expect(screen.getByRole("combobox", { name: "Find" })).toHaveValue("");
  });

  it("leads to an entry in the language in which it was found", async () => {
    open();
    await userEvent.type(screen.getByRole("combobox", { name: "Find" }), "ra");
    expect(await screen.findByText("منحدر")).toHaveAttribute("lang", "ar");
    await userEvent.click(screen.getByText("منحدر"));
    expect(where()).toBe("/ledger?table=deckside&in=ar&entry=9");
    expect(screen.getByRole("combobox", { name: "Find" })).toHaveValue("");
  });

  it("leads to people and screens", async () => {
    const asked = open();
    await userEvent.type(screen.getByRole("combobox", { name: "Find" }), "in");
    await userEvent.click(await screen.findByRole("option", { name: /screen\s*Intake/ }));
    expect(where()).toBe("/intake");
    await userEvent.type(screen.getByRole("combobox", { name: "Find" }), "rau");
    await userEvent.click(await screen.findByRole("option", { name: /Rauha Lind/ }));
    expect(where()).toBe("/people?person=5");
    expect(asked.at(-1)?.path).toBe("/api/find?words=rau");
  });

  it("shows all entries with the words on Enter", async () => {
    open();
    await userEvent.type(screen.getByRole("combobox", { name: "Find" }), "deck light{Enter}");
    await vi.waitFor(() => expect(where()).toContain("/ledger?"));
    expect(where()).toContain("words=deck+light");
  });
});
