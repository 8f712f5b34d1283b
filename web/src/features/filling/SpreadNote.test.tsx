import { act, screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it, vi } from "vitest";
import { show } from "../../test/builders";
import { changes, serve } from "../../test/server";
import { SpreadNote } from "./SpreadNote";

describe("spreading a settled text", () => {
  it("shows where it would go, and goes there once", async () => {
    const asked = serve({
      "GET /api/entries/7/cells/de/same": [{ entry: 8, key: "deck.up", table: "Deck", version: 3 }],
      "POST /api/cells/changes": { change: 5, changed: 1 },
    });
    const onDone = vi.fn();
    show(<SpreadNote entry={7} language="de" text="Rampe oben" settles={false} onDone={onDone} />);
    await userEvent.click(screen.getByRole("button", { name: "To the same sources elsewhere …" }));
    expect(await screen.findByText("deck.up")).toBeInTheDocument();
    expect(screen.queryByRole("button", { name: /Settle/ })).not.toBeInTheDocument();
    const press = screen.getByRole("button", { name: "Pencil 1 text" });
    act(() => {
      press.click();
      press.click();
    });
    await waitFor(() => expect(onDone).toHaveBeenCalledWith("1 text was filled; Ctrl+Z takes it back.", [8]));
    expect(changes(asked)).toHaveLength(1);
    expect(changes(asked)[0]?.json).toMatchObject({
      action: "PENCIL",
      how: "MEMORY",
      cells: [{ entry: 8, language: "de", version: 3, text: "Rampe oben" }],
    });
  });

  it("settles where one may settle one's own", async () => {
    const asked = serve({
      "GET /api/entries/7/cells/de/same": [{ entry: 8, key: "deck.up", table: "Deck", version: 0 }],
      "POST /api/cells/changes": { change: 5, changed: 1 },
    });
    show(<SpreadNote entry={7} language="de" text="Rampe oben" settles onDone={() => undefined} />);
    await userEvent.click(screen.getByRole("button", { name: "To the same sources elsewhere …" }));
    await userEvent.click(await screen.findByRole("button", { name: "Settle 1" }));
    await waitFor(() => expect(changes(asked)[0]?.json).toMatchObject({ action: "PUT_FORWARD" }));
  });
});
