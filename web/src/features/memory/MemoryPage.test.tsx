import { screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it } from "vitest";
import { aPerson, aTable, show } from "../../test/builders";
import { changes, refusal, serve } from "../../test/server";
import { MemoryPage } from "./MemoryPage";

const unit = (part: object) => ({
  entry: 0,
  unit: 0,
  version: 1,
  percent: 0,
  source: "Mind the gap",
  text: "Vorsicht",
  place: "",
  shelf: "Signs",
  slug: "",
  person: "",
  made: "",
  used: 0,
  ...part,
});
const shelf = {
  id: 4,
  name: "Old signs",
  rank: 1,
  deduction: 5,
  pairs: [{ from: "en", to: "de", units: 1200 }],
  used: 3,
  person: "Mirja",
  madeAt: "2026-11-01T10:00:00Z",
};
const service = {
  id: 2,
  settings: {
    name: "Draft house",
    address: "http://drafts.example/",
    languages: [],
    withheld: ["ramp-panel"],
    dayCharacters: 1000,
    monthCharacters: 9000,
    textsAtOnce: 10,
    requestsAtOnce: 2,
    seconds: 30,
  },
  secret: true,
  today: 120,
  month: 400,
  version: 7,
};

function open(at: string, answers: Record<string, unknown>, coordinator = true) {
  const asked = serve({
    "GET /api/tables": [aTable()],
    "GET /api/memory": { ready: true, tooLarge: false, units: 7177, sources: 1966, bytes: 400_000, mostBytes: 5e8 },
    ...answers,
  });
  show(<MemoryPage me={aPerson({ coordinator })} />, at);
  return asked;
}

describe("the memory", () => {
  it("is searched on either side, and leads to what is settled in the ledger", async () => {
    const asked = open("/memory?words=gap", {
      "GET /api/memory/units": {
        units: [unit({ unit: 9 }), unit({ entry: 31, shelf: "Ramp", slug: "ramp-panel", place: "up" })],
        more: true,
      },
    });
    expect(await screen.findByRole("link", { name: "Ramp · up" })).toHaveAttribute(
      "href",
      "/ledger?table=ramp-panel&in=de&entry=31",
    );
    expect(screen.getByText("The first 2; more words find fewer.")).toBeInTheDocument();
    expect(screen.getByText(/7,177 units of 1,966 sources/)).toBeInTheDocument();
    await userEvent.click(screen.getByRole("combobox", { name: "Look in" }));
    await userEvent.click(await screen.findByRole("option", { name: "texts" }));
    await waitFor(() => expect(asked.at(-1)?.path).toContain("side=TEXT"));
  });

  it("removes units of shelves, which can be put back, and mends them", async () => {
    const asked = open("/memory?words=gap", {
      "GET /api/memory/units": { units: [unit({ unit: 9 })], more: false },
      "POST /api/memory/units/removal": { units: 1 },
      "PUT /api/memory/units/9": refusal(409, "unit-moved-on", "Someone changed this unit meanwhile."),
    });
    await userEvent.click(await screen.findByRole("button", { name: "Mend …" }));
    const dialog = await screen.findByRole("dialog", { name: "Mend a unit of Signs" });
    await userEvent.type(within(dialog).getByRole("textbox"), "!");
    await userEvent.click(within(dialog).getByRole("button", { name: "Save" }));
    expect(await within(dialog).findByText("Someone changed this unit meanwhile.")).toBeInTheDocument();
    await userEvent.click(within(dialog).getByRole("button", { name: "Cancel" }));
    await userEvent.click(await screen.findByRole("checkbox", { name: "Choose Vorsicht" }));
    await userEvent.click(screen.getByRole("button", { name: "Remove 1" }));
    await userEvent.click(await screen.findByRole("button", { name: "Put back" }));
    await waitFor(() =>
      expect(changes(asked).map((one) => one.json)).toEqual([
        { version: 1, text: "Vorsicht!" },
        { units: [9], away: true },
        { units: [9], away: false },
      ]),
    );
  });

  it("shows a contributor neither shelves nor services", async () => {
    open("/memory?view=shelves", { "GET /api/memory/units": { units: [], more: false } }, false);
    expect(await screen.findByText("Type words of a source or a text.")).toBeInTheDocument();
    expect(screen.queryByRole("link", { name: "Shelves" })).not.toBeInTheDocument();
    expect(screen.getByRole("link", { name: "Fills" })).toBeInTheDocument();
  });

  it("takes files onto shelves and tells what was left out", async () => {
    const asked = open("/memory?view=shelves", {
      "GET /api/memory/shelves": [shelf],
      "POST /api/memory/shelves": {
        id: 5,
        units: 10,
        fresh: 8,
        problems: ["a.tmx, line 4: found a unit without texts"],
      },
    });
    expect(await screen.findByText("English → German: 1,200")).toBeInTheDocument();
    expect(screen.getByRole("link", { name: "As TMX" })).toHaveAttribute("href", "/api/memory/shelves/4/tmx");
    await userEvent.upload(
      screen.getByLabelText("Bring a TMX file …", { selector: "input" }),
      new File(["<tmx/>"], "a.tmx"),
    );
    expect(await screen.findByText("10 units, 8 of them new.")).toBeInTheDocument();
    expect(screen.getByText("a.tmx, line 4: found a unit without texts")).toBeInTheDocument();
    expect(changes(asked)[0]?.path).toBe("/api/memory/shelves?file=a.tmx&name=a");
  });

  it("shows what services were sent, and never a secret", async () => {
    const asked = open("/memory?view=drafts", {
      "GET /api/drafting/services": { hosts: ["drafts.example"], services: [service] },
      "GET /api/drafting/worth": [
        { service: "Draft house", language: "de", table: "Ramp", drafts: 40, settled: 20, kept: 15, changed: 8 },
      ],
      "PUT /api/drafting/services/2": null,
    });
    expect(await screen.findByText("120 of 1,000")).toBeInTheDocument();
    expect(screen.getByRole("row", { name: "Draft house German Ramp 40 20 75% 8%" })).toBeInTheDocument();
    await userEvent.click(screen.getByRole("button", { name: "Change …" }));
    const dialog = await screen.findByRole("dialog", { name: "Draft house" });
    expect(within(dialog).getByLabelText("Secret")).toHaveValue("");
    await userEvent.clear(within(dialog).getByRole("textbox", { name: "Characters a day" }));
    expect(within(dialog).getByRole("button", { name: "Save" })).toBeDisabled();
    await userEvent.type(within(dialog).getByRole("textbox", { name: "Characters a day" }), "500");
    await userEvent.click(within(dialog).getByRole("button", { name: "Save" }));
    await waitFor(() => expect(changes(asked)).toHaveLength(1));
    const sent = changes(asked)[0]?.json as Record<string, unknown>;
    expect(sent).toMatchObject({ name: "Draft house", dayCharacters: 500, withheld: ["ramp-panel"], version: 7 });
    expect(sent).not.toHaveProperty("secret");
  });

  it("says how hosts are named where none is", async () => {
    open("/memory?view=drafts", {
      "GET /api/drafting/services": { hosts: [], services: [] },
      "GET /api/drafting/worth": [],
    });
    expect(await screen.findByText("--drafting drafts.example")).toBeInTheDocument();
    expect(screen.queryByRole("button", { name: /Add/ })).not.toBeInTheDocument();
  });

  it("takes back what nobody touched of a fill", async () => {
    const asked = open("/memory?view=fills", {
      "GET /api/fill": [
        {
          change: 12,
          person: "Mirja",
          mine: true,
          language: "de",
          scope: "table=ramp-panel&in=de",
          service: "Draft house",
          begunAt: "2026-11-01T10:00:00Z",
          status: "done",
          done: 5,
          total: 5,
          message: "",
          known: 3,
          drafted: 2,
          refused: 1,
          told: [{ entry: 9, key: "deck.9", language: "de", code: "no-draft", sentence: "Its draft is empty." }],
        },
      ],
      "POST /api/changes/12/undo": { change: 13, amount: 4, refused: ["x"], lowered: [] },
    });
    expect(await screen.findByText("3 from memory, 2 drafted, 1 not filled")).toBeInTheDocument();
    await userEvent.click(screen.getByRole("button", { name: "Take back what nobody touched" }));
    expect(await screen.findByText("4 taken back; 1 were changed since and stay.")).toBeInTheDocument();
    expect(changes(asked).map(({ path }) => path)).toEqual(["/api/changes/12/undo"]);
  });
});
