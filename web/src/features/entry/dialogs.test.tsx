import { screen, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it, vi } from "vitest";
import { aLanguage, aRow, aTable, show } from "../../test/builders";
import { changes, refusal, serve } from "../../test/server";
import { EntryDialog } from "./EntryDialog";
import { MoveDialog } from "./MoveDialog";
import { SourceDialog } from "./SourceDialog";

const changed = { change: 31, entries: [7] };
const tables = [
  aTable(),
  aTable({ id: 2, slug: "deckside", name: "Deckside", languages: [aLanguage("pl", "Polish")] }),
];

describe("describing an entry", () => {
  it("sends everything that is said, tags apart", async () => {
    const asked = serve({ "GET /api/tables": tables, "PUT /api/entries/7": changed });
    const onDone = vi.fn();
    const row = aRow({ version: 4, note: "Old", tags: ["bow"] });
    show(<EntryDialog table="ramp-panel" row={row} after={null} onDone={onDone} onClose={vi.fn()} />);
    const tags = screen.getByRole("textbox", { name: "Tags" });
    await userEvent.clear(tags);
    await userEvent.type(tags, "bow, , lamp ");
    await userEvent.type(screen.getByRole("spinbutton", { name: "Longest, in characters" }), "28");
    await userEvent.click(screen.getByRole("checkbox", { name: /Not for translation/ }));
    await userEvent.click(screen.getByRole("button", { name: "Save" }));
    await vi.waitFor(() => expect(onDone).toHaveBeenCalledWith(changed));
    expect(changes(asked)[0]?.json).toEqual({
      version: 4,
      description: {
        key: "ramp.up",
        context: "",
        note: "Old",
        reference: "",
        section: "",
        maxLength: 28,
        maxLines: 0,
        maxWidth: 0,
        tags: ["bow", "lamp"],
        translatable: false,
      },
    });
  });

  it("keeps what was typed when the server refuses, and says why", async () => {
    serve({
      "GET /api/tables": tables,
      "PUT /api/entries/7": refusal(409, "key_taken", "The key ramp.down is taken in this table."),
    });
    const onDone = vi.fn();
    show(<EntryDialog table="ramp-panel" row={aRow()} after={null} onDone={onDone} onClose={vi.fn()} />);
    const key = screen.getByRole("textbox", { name: /Key/ });
    await userEvent.clear(key);
    expect(screen.getByRole("button", { name: "Save" })).toBeDisabled();
    await userEvent.type(key, "ramp.down");
    await userEvent.click(screen.getByRole("button", { name: "Save" }));
    expect(await screen.findByRole("alert")).toHaveTextContent("The key ramp.down is taken in this table.");
    expect(key).toHaveValue("ramp.down");
    expect(onDone).not.toHaveBeenCalled();
  });

  it("makes a new entry in its section, after another", async () => {
    const asked = serve({ "GET /api/tables": tables, "POST /api/tables/ramp-panel/entries": changed });
    const onDone = vi.fn();
    show(<EntryDialog table="ramp-panel" row={null} section="Bow" after={3} onDone={onDone} onClose={vi.fn()} />);
    await userEvent.type(screen.getByRole("textbox", { name: /Key/ }), "ramp.stuck");
    await userEvent.type(await screen.findByRole("textbox", { name: /Source text/ }), "Ramp stuck");
    await userEvent.click(screen.getByRole("button", { name: "Make the entry" }));
    await vi.waitFor(() => expect(onDone).toHaveBeenCalled());
    expect(changes(asked)[0]?.json).toMatchObject({
      shape: "plain",
      source: { other: "Ramp stuck" },
      after: 3,
      description: { key: "ramp.stuck", section: "Bow" },
    });
  });
});

describe("rewriting a source", () => {
  function open(stale: string[], answer: unknown = changed) {
    const asked = serve({
      "GET /api/tables": tables,
      "GET /api/entries/7/going-stale": stale,
      "POST /api/entries/7/source": answer,
    });
    const onDone = vi.fn();
    show(<SourceDialog row={aRow({ version: 2 })} onDone={onDone} onClose={vi.fn()} />);
    return { asked, onDone };
  }

  it("says how many texts in which languages would go stale, and sends the answer", async () => {
    const { asked, onDone } = open(["de", "fi"]);
    expect(await screen.findByRole("radio", { name: "Yes: 2 texts go stale, in German, Finnish" })).toBeChecked();
    const rewrite = screen.getByRole("button", { name: "Rewrite" });
    expect(rewrite).toBeDisabled();
    const source = await screen.findByRole("textbox", { name: /Source text/ });
    await userEvent.type(source, " now");
    await userEvent.click(rewrite);
    await vi.waitFor(() => expect(onDone).toHaveBeenCalledWith(changed));
    expect(changes(asked)[0]?.json).toEqual({ version: 2, source: { other: "Ramp up now" }, meaningChanged: true });
  });

  it("leaves every text as it is for a small fix", async () => {
    const { asked, onDone } = open([]);
    expect(await screen.findByRole("radio", { name: /there are no texts/ })).toBeInTheDocument();
    await userEvent.click(screen.getByRole("radio", { name: /No, a small fix/ }));
    await userEvent.type(await screen.findByRole("textbox", { name: /Source text/ }), ".");
    await userEvent.click(screen.getByRole("button", { name: "Rewrite" }));
    await vi.waitFor(() => expect(onDone).toHaveBeenCalled());
    expect(changes(asked)[0]?.json).toMatchObject({ meaningChanged: false });
  });

  it("says when another was faster", async () => {
    const { onDone } = open([], refusal(409, "changed_since", "Mirja rewrote it a moment ago."));
    await userEvent.type(await screen.findByRole("textbox", { name: /Source text/ }), "!");
    await userEvent.click(screen.getByRole("button", { name: "Rewrite" }));
    expect(await screen.findByRole("alert")).toHaveTextContent("Mirja rewrote it a moment ago.");
    expect(onDone).not.toHaveBeenCalled();
  });
});

describe("moving an entry", () => {
  it("goes into another table, with the languages that it needs", async () => {
    const asked = serve({ "GET /api/tables": tables, "POST /api/entries/place": changed });
    const onDone = vi.fn();
    show(<MoveDialog row={aRow()} onDone={onDone} onClose={vi.fn()} />);
    expect(screen.queryByRole("checkbox", { name: /Add the languages/ })).not.toBeInTheDocument();
    await vi.waitFor(() =>
      expect(screen.getByRole("combobox", { name: "Into the table" })).toHaveTextContent("Ramp panel"),
    );
    await userEvent.click(screen.getByRole("combobox", { name: "Into the table" }));
    await userEvent.click(within(await screen.findByRole("listbox")).getByRole("option", { name: "Deckside" }));
    await userEvent.click(screen.getByRole("checkbox", { name: /Add the languages/ }));
    await userEvent.click(screen.getByRole("button", { name: "Move" }));
    await vi.waitFor(() => expect(onDone).toHaveBeenCalledWith(changed));
    expect(changes(asked)[0]?.json).toEqual({ entries: [7], table: "deckside", addLanguages: true });
  });

  it("follows the entry of that key, and no other", async () => {
    const hit = (key: string, entry: number, table = "ramp-panel") => ({
      entry,
      table,
      tableName: "x",
      key,
      words: "",
    });
    const asked = serve({
      "GET /api/tables": tables,
      "GET /api/find": {
        entries: [hit("ramp.up", 5, "deckside"), hit("ramp.upper", 6), hit("ramp.up", 9)],
        people: [],
      },
      "POST /api/entries/place": changed,
    });
    const onDone = vi.fn();
    show(<MoveDialog row={aRow({ id: 1 })} onDone={onDone} onClose={vi.fn()} />);
    const after = screen.getByRole("textbox", { name: "After the key" });
    await userEvent.type(after, "ramp.none");
    await userEvent.click(screen.getByRole("button", { name: "Move" }));
    expect(await screen.findByRole("alert")).toHaveTextContent("There is no key “ramp.none” in that table.");
    expect(changes(asked)).toHaveLength(0);
    await userEvent.clear(after);
    await userEvent.type(after, "ramp.up");
    await vi.waitFor(async () => {
      await userEvent.click(screen.getByRole("button", { name: "Move" }));
      expect(onDone).toHaveBeenCalled();
    });
    expect(changes(asked)[0]?.json).toEqual({ entries: [1], table: "ramp-panel", after: 9, addLanguages: false });
  });
});
