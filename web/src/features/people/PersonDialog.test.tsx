import { screen, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it, vi } from "vitest";
import type { Schemas } from "../../api/client";
import { aName, aTable, show } from "../../test/builders";
import { changes, refusal, serve } from "../../test/server";
import { PersonDialog } from "./PersonDialog";

const lina = {
  id: 5,
  signIn: "lina",
  name: "Lina Korhola",
  coordinator: false,
  levels: { de: "contributor", fi: "reviewer" },
} as unknown as Schemas["PersonRow"];

function open(person: Schemas["PersonRow"] | null, answers: Record<string, unknown>) {
  const asked = serve({ "GET /api/tables": [aTable()], "GET /api/languages": [aName("fi", "Finnish")], ...answers });
  const onDone = vi.fn();
  show(<PersonDialog person={person} onDone={onDone} onClose={vi.fn()} />);
  return { asked, onDone };
}

describe("a person", () => {
  it("is invited with rights in a language", async () => {
    const invitation = { token: "abc", expires: "2026-12-01T00:00:00Z" };
    const { asked, onDone } = open(null, { "POST /api/people": invitation });
    await userEvent.type(screen.getByRole("textbox", { name: "Name" }), "Oona Vesala");
    await userEvent.type(screen.getByRole("textbox", { name: "Signs in as" }), "OONA");
    await userEvent.type(screen.getByRole("combobox", { name: "A right in one more language" }), "fin");
    await userEvent.click(await screen.findByRole("option", { name: /Finnish/ }));
    await userEvent.click(screen.getByRole("button", { name: "Add, and make an invitation" }));
    await vi.waitFor(() => expect(onDone).toHaveBeenCalledWith("Oona Vesala", invitation));
    expect(changes(asked)[0]?.json).toEqual({
      signIn: "oona",
      name: "Oona Vesala",
      coordinator: false,
      levels: { fi: "contributor" },
    });
  });

  it("gets other rights, and keeps the name to sign in with", async () => {
    const { asked, onDone } = open(lina, { "PUT /api/people/5": null });
    expect(screen.getByRole("textbox", { name: "Signs in as" })).toBeDisabled();
    await userEvent.click(await screen.findByRole("combobox", { name: "Right in German" }));
    await userEvent.click(within(await screen.findByRole("listbox")).getByRole("option", { name: /review/i }));
    await userEvent.click(screen.getByRole("button", { name: "Save" }));
    await vi.waitFor(() => expect(onDone).toHaveBeenCalledWith("Lina Korhola"));
    expect(changes(asked)[0]?.json).toMatchObject({ levels: { de: "reviewer", fi: "reviewer" } });
  });

  it("needs no languages as a coordinator", async () => {
    open(lina, {});
    expect(await screen.findByRole("combobox", { name: "Right in Finnish" })).toBeInTheDocument();
    await userEvent.click(screen.getByRole("checkbox", { name: /Coordinator/ }));
    expect(screen.queryByRole("combobox", { name: "Right in Finnish" })).not.toBeInTheDocument();
  });

  it("stays when the last coordinator would go, and says so", async () => {
    const { onDone } = open(
      { ...lina, coordinator: true },
      {
        "PUT /api/people/5": refusal(409, "last_coordinator", "Somebody has to be a coordinator."),
      },
    );
    await userEvent.click(screen.getByRole("button", { name: "Save" }));
    expect(await screen.findByRole("alert")).toHaveTextContent("Somebody has to be a coordinator.");
    expect(onDone).not.toHaveBeenCalled();
  });
});
