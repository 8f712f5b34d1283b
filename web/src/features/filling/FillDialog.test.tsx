import { act, screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it, vi } from "vitest";
import { aLanguage, show } from "../../test/builders";
import { changes, refusal, serve } from "../../test/server";
import { FillDialog } from "./FillDialog";

const hit = (entry: number, percent: number, adapted: object[] = []) => ({
  entry,
  key: `deck.${entry}`,
  version: 0,
  source: `Deck ${entry} is closed`,
  text: `Deck ${entry} ist geschlossen`,
  percent,
  from: "ramp.deck",
  table: "Ramp",
  otherSource: "Deck 9 is closed",
  adapted,
});

function open(answers: Record<string, unknown> = {}) {
  // Rows in sight exist; without a layout there would be none.
  vi.spyOn(Element.prototype, "clientHeight", "get").mockReturnValue(600);
  const asked = serve({
    "POST /api/fill/preview": {
      hits: [hit(1, 100), hit(2, 98, [{ from: "9", to: "2" }])],
      untranslated: 5,
      next: 500,
    },
    "POST /api/cells/changes": { change: 7, changed: 1, refusedInAll: 0, refused: [] },
    ...answers,
  });
  const onDone = vi.fn();
  show(
    <FillDialog
      scope="table=deck"
      languages={[aLanguage("de", "German"), aLanguage("fi", "Finnish")]}
      onDone={onDone}
    />,
  );
  return { asked, onDone };
}

describe("filling", () => {
  it("shows what would come from where, and pencils what is ticked", async () => {
    const { asked, onDone } = open();
    expect(
      await screen.findByText(/1 from the same source, 1 from a similar one; 3 would be left/),
    ).toBeInTheDocument();
    expect(screen.getByText("98 % alike: ramp.deck, Ramp; adapted: 2 for 9")).toBeInTheDocument();
    await userEvent.click(screen.getByRole("checkbox", { name: "deck.1" }));
    await userEvent.click(screen.getByRole("button", { name: "Pencil 1 text" }));
    await waitFor(() =>
      expect(onDone).toHaveBeenCalledWith({
        change: 7,
        entries: [2],
        said: "1 text was pencilled; Ctrl+Z takes it back.",
      }),
    );
    const sent = changes(asked).at(-1)?.json as { action: string; how: string; cells: unknown[] };
    expect(sent).toMatchObject({ action: "PENCIL", how: "MEMORY" });
    expect(sent.cells).toEqual([{ entry: 2, language: "de", version: 0, text: "Deck 2 ist geschlossen" }]);
  });

  it("is done once, however quickly it is pressed again", async () => {
    const { asked, onDone } = open();
    const press = await screen.findByRole("button", { name: "Pencil 2 texts" });
    act(() => {
      press.click();
      press.click();
    });
    await waitFor(() => expect(onDone).toHaveBeenCalledTimes(1));
    expect(changes(asked).filter(({ path }) => path === "/api/cells/changes")).toHaveLength(1);
  });

  it("looks again for another likeness or language", async () => {
    const { asked } = open();
    await screen.findByText("deck.1");
    await userEvent.click(screen.getByRole("combobox", { name: "With texts that were settled for" }));
    await userEvent.click(await screen.findByRole("option", { name: "a source that is 85 % alike or more" }));
    await waitFor(() =>
      expect(asked.at(-1)?.json).toEqual({ scope: "table=deck", language: "de", least: 85, first: 0 }),
    );
    await userEvent.click(screen.getByRole("combobox", { name: "In" }));
    await userEvent.click(await screen.findByRole("option", { name: "Finnish" }));
    await waitFor(() =>
      expect(asked.at(-1)?.json).toEqual({ scope: "table=deck", language: "fi", least: 85, first: 0 }),
    );
    await userEvent.click(await screen.findByRole("button", { name: "Look further" }));
    await waitFor(() =>
      expect(asked.at(-1)?.json).toEqual({ scope: "table=deck", language: "fi", least: 85, first: 500 }),
    );
  });

  const drafting = {
    "GET /api/drafting/choices": [{ id: 3, name: "Draft house" }],
    "POST /api/fill/preview": {
      hits: [hit(1, 100)],
      untranslated: 3,
      rest: [
        { entry: 8, version: 0 },
        { entry: 9, version: 2 },
      ],
      plan: { texts: 2, characters: 40, left: 30, withheld: 1, unfit: 0 },
    },
    "POST /api/fill": { change: 12 },
  };
  const state = (part: object) => ({
    change: 12,
    status: "done",
    done: 2,
    total: 2,
    message: "",
    known: 1,
    drafted: 2,
    refused: 0,
    told: [],
    ...part,
  });

  async function draft(answers: Record<string, unknown>) {
    const opened = open({ ...drafting, ...answers });
    await userEvent.click(await screen.findByRole("combobox", { name: "Then" }));
    await userEvent.click(await screen.findByRole("option", { name: "drafts of Draft house" }));
    return opened;
  }

  it("has a service draft the rest, and says before how much leaves", async () => {
    const { asked, onDone } = await draft({ "GET /api/fill/12": state({}) });
    expect(await screen.findByText(/2 texts of 40 characters would be drafted; 30 characters may/)).toHaveTextContent(
      "What is more is not drafted. 1 text is of a table whose texts may not leave.",
    );
    await userEvent.click(screen.getByRole("button", { name: "Pencil 1, draft 2" }));
    await waitFor(() =>
      expect(onDone).toHaveBeenCalledWith({
        change: 12,
        entries: [1, 8, 9],
        said: "3 texts were pencilled; Ctrl+Z takes all of it back.",
      }),
    );
    expect(changes(asked).at(-1)?.json).toMatchObject({
      language: "de",
      service: 3,
      known: [{ entry: 1, version: 0, text: "Deck 1 ist geschlossen" }],
      drafts: [
        { entry: 8, version: 0 },
        { entry: 9, version: 2 },
      ],
    });
  });

  it("shows how far it is, can be stopped, and lists what was not filled", async () => {
    let over = false;
    const { asked, onDone } = await draft({
      "POST /api/fill/12/stop": () => {
        over = true;
        return null;
      },
      "GET /api/fill/12": () =>
        over
          ? state({ drafted: 1, refused: 1, told: [{ entry: 9, key: "deck.9", sentence: "It was stopped." }] })
          : state({ status: "going", done: 1 }),
    });
    await userEvent.click(await screen.findByRole("button", { name: "Pencil 1, draft 2" }));
    expect(await screen.findByText("1 of 2")).toBeInTheDocument();
    await userEvent.click(screen.getByRole("button", { name: "Stop, and fill in what came" }));
    expect(await screen.findByText("It was stopped.")).toBeInTheDocument();
    expect(onDone).not.toHaveBeenCalled();
    await userEvent.click(screen.getByRole("button", { name: "Close" }));
    expect(onDone).toHaveBeenCalledWith(expect.objectContaining({ change: 12 }));
    expect(asked.some(({ path }) => path === "/api/fill/12/stop")).toBe(true);
  });

  it("says what went wrong with a fill, and can be tried again", async () => {
    await draft({ "GET /api/fill/12": state({ status: "failed", message: "The service is gone." }) });
    await userEvent.click(await screen.findByRole("button", { name: "Pencil 1, draft 2" }));
    expect(await screen.findByText("The service is gone.")).toBeInTheDocument();
    expect(screen.getByRole("button", { name: "Pencil 1, draft 2" })).toBeEnabled();
  });

  it("says why nothing can be looked for, and tells when a change is refused", async () => {
    const { onDone } = open({
      "POST /api/fill/preview": refusal(
        503,
        "memory-not-ready",
        "The memory is still being read; try again in a moment.",
      ),
    });
    expect(await screen.findByText("The memory is still being read; try again in a moment.")).toBeInTheDocument();
    expect(screen.getByRole("button", { name: "Pencil 0 texts" })).toBeDisabled();
    await userEvent.click(screen.getByRole("button", { name: "Cancel" }));
    expect(onDone).toHaveBeenCalledWith(null);
  });
});
