import { screen, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { useLocation } from "react-router";
import { describe, expect, it, vi } from "vitest";
import { aPerson, aTable, show } from "../../test/builders";
import { changes, refusal, serve } from "../../test/server";
import { EVERYTHING } from "../../scope/scope";
import { ScopeMenu } from "./ScopeMenu";

function Where() {
  const { pathname, search } = useLocation();
  return <output>{pathname + search}</output>;
}

const kept = [
  {
    id: 1,
    name: "German, stale",
    query: "table=ramp-panel&in=de&only=stale",
    mine: true,
    person: "Lina",
    shared: false,
  },
  { id: 2, name: "Polish offers", query: "in=pl&only=offered", mine: false, person: "Oskar", shared: true },
];

async function open(answers: Record<string, unknown>, coordinator = true) {
  const asked = serve({ "GET /api/scopes": kept, "GET /api/scope": { deltas: [4, 3] }, ...answers });
  const onSay = vi.fn();
  const onEntries = vi.fn();
  show(
    <>
      <ScopeMenu
        me={aPerson({ coordinator })}
        scope={{ ...EVERYTHING, tables: ["ramp-panel"], languages: ["de"] }}
        tables={[aTable()]}
        entries={{} as never}
        onSay={onSay}
        onEntries={onEntries}
      />
      <Where />
    </>,
  );
  await userEvent.click(screen.getByRole("button", { name: "Scope" }));
  return { asked, onSay, onEntries };
}

describe("what can be done with a scope", () => {
  it("answers all its stale texts at once", async () => {
    const { asked, onSay, onEntries } = await open({ "POST /api/cells/changes": { change: 8, changed: 2 } });
    await userEvent.click(await screen.findByRole("menuitem", { name: "All 2 stale texts here still hold" }));
    await vi.waitFor(() => expect(onEntries).toHaveBeenCalled());
    expect(changes(asked)[0]?.json).toMatchObject({
      action: "STILL_HOLDS",
      cells: [
        { entry: 4, language: "de" },
        { entry: 7, language: "de" },
      ],
    });
    expect(onSay).toHaveBeenCalledWith("2 texts are confirmed: they still hold. Ctrl+Z takes all of that back.");
  });

  it("offers a contributor neither answers nor new entries", async () => {
    await open({}, false);
    expect(await screen.findByRole("menuitem", { name: "Keep this scope …" })).toBeInTheDocument();
    expect(screen.queryByRole("menuitem", { name: /still hold/ })).not.toBeInTheDocument();
    expect(screen.queryByRole("menuitem", { name: /New entry/ })).not.toBeInTheDocument();
  });

  it("goes to a kept scope", async () => {
    await open({});
    await userEvent.click(await screen.findByRole("menuitem", { name: /Polish offers/ }));
    expect(document.querySelector("output")).toHaveTextContent("/ledger?in=pl&only=offered");
  });

  it("forgets only one's own", async () => {
    const { asked } = await open({ "DELETE /api/scopes/1": null });
    await userEvent.click(await screen.findByRole("menuitem", { name: "Forget a kept scope …" }));
    const dialog = await screen.findByRole("dialog", { name: "Scopes that you keep" });
    expect(within(dialog).getAllByRole("button", { name: /^Forget/ })).toHaveLength(1);
    await userEvent.click(within(dialog).getByRole("button", { name: "Forget German, stale" }));
    await vi.waitFor(() => expect(changes(asked)).toHaveLength(1));
  });

  it("keeps the scope under a name", async () => {
    const { asked, onSay } = await open({ "POST /api/scopes": kept[0] });
    await userEvent.click(await screen.findByRole("menuitem", { name: "Keep this scope …" }));
    const dialog = await screen.findByRole("dialog", { name: "Keep this scope" });
    await userEvent.type(within(dialog).getByRole("textbox", { name: "Name" }), "Ramp in German");
    await userEvent.click(within(dialog).getByRole("checkbox", { name: "Show it to everybody" }));
    await userEvent.click(within(dialog).getByRole("button", { name: "Keep" }));
    await vi.waitFor(() => expect(onSay).toHaveBeenCalledWith("The scope is kept as Ramp in German."));
    expect(changes(asked)[0]?.json).toEqual({ name: "Ramp in German", query: "table=ramp-panel&in=de", shared: true });
  });

  it("says why a scope could not be kept", async () => {
    const { onSay } = await open({
      "POST /api/scopes": refusal(409, "name_taken", "You have kept another under that name."),
    });
    await userEvent.click(await screen.findByRole("menuitem", { name: "Keep this scope …" }));
    await userEvent.type(await screen.findByRole("textbox", { name: "Name" }), "x{Enter}");
    await vi.waitFor(() => expect(onSay).toHaveBeenCalledWith("You have kept another under that name."));
  });
});
