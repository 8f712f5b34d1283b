import { screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it } from "vitest";
import { aPerson, aTable, show } from "../../test/builders";
import { changes, serve } from "../../test/server";
import { WordbookPage } from "./WordbookPage";

const term = (id: number, word: string, part: object = {}) => ({
  id,
  source: "en",
  term: word,
  note: "",
  sense: { part: "", products: [], status: "agreed", forms: [] },
  texts: {},
  version: 3,
  ...part,
});

function open(answers: Record<string, unknown>, me = aPerson({ coordinator: true })) {
  const asked = serve({
    "GET /api/tables": [aTable()],
    "GET /api/products": [],
    "GET /api/terms": { terms: [term(1, "ramp")], found: 1, all: 1 },
    "GET /api/terms/1/use": { entries: 12, languages: [{ language: "de", texts: 10, followed: 9 }] },
    ...answers,
  });
  show(<WordbookPage me={me} />);
  return asked;
}

describe("the wordbook", () => {
  it("is read a page at a time and narrowed by the server", async () => {
    const asked = open({
      "GET /api/terms": (path: string) =>
        path.includes("first=200")
          ? { terms: [term(2, "visor")], found: 201, all: 20_000 }
          : { terms: [term(1, "ramp")], found: 201, all: 20_000 },
    });
    await userEvent.click(await screen.findByRole("button", { name: "200 more" }));
    expect(await screen.findByRole("button", { name: "visor" })).toBeInTheDocument();
    await userEvent.type(screen.getByRole("textbox", { name: "Search terms and translations" }), "ra");
    await waitFor(() => expect(asked.some(({ path }) => path.includes("words=ra"))).toBe(true));
  });

  it("shows where a term stands and takes a proposal with one press", async () => {
    const asked = open({
      "GET /api/terms": {
        terms: [
          term(1, "ramp", {
            texts: { de: { text: "Auffahrt", avoid: [], forms: [], proposal: "Rampe", proposedBy: "Lina" } },
          }),
        ],
        found: 1,
        all: 1,
      },
      "PUT /api/terms/1": null,
    });
    await userEvent.click(await screen.findByRole("button", { name: "ramp" }));
    const dialog = await screen.findByRole("dialog", { name: "ramp" });
    expect(await within(dialog).findByText("It stands in 12 sources.")).toBeInTheDocument();
    expect(within(dialog).getByRole("link", { name: "German" })).toHaveAttribute("href", "/ledger?in=de&words=ramp");
    await userEvent.click(within(dialog).getByRole("button", { name: "Take it" }));
    await userEvent.type(within(dialog).getByRole("textbox", { name: "Also said in German" }), "Laderampe, Heckrampe");
    await userEvent.click(within(dialog).getByRole("button", { name: "Save" }));
    await waitFor(() => expect(changes(asked)).toHaveLength(1));
    const sent = changes(asked)[0]?.json as { texts: Record<string, unknown>; version: number };
    expect(sent.version).toBe(3);
    expect(sent.texts.de).toEqual({ text: "Rampe", avoid: [], forms: ["Laderampe", "Heckrampe"] });
  });

  it("lets a contributor propose in their language and nothing else", async () => {
    const asked = open(
      { "PUT /api/terms/1/proposals/fi": null },
      aPerson({ coordinator: false, levels: { fi: "contributor" } }),
    );
    await userEvent.click(await screen.findByRole("button", { name: "ramp" }));
    const dialog = await screen.findByRole("dialog", { name: "ramp" });
    expect(within(dialog).getByRole("textbox", { name: "Term" })).toBeDisabled();
    await userEvent.type(within(dialog).getByRole("textbox", { name: "Propose in Finnish" }), "ramppi");
    await userEvent.click(within(dialog).getByRole("button", { name: "Save" }));
    await waitFor(() =>
      expect(changes(asked).map(({ method, path, json }) => [method, path, json])).toEqual([
        ["PUT", "/api/terms/1/proposals/fi", { text: "ramppi" }],
      ]),
    );
  });

  it("makes a term of a frequent word", async () => {
    open({ "GET /api/terms/suggested": [{ words: "car deck", entries: 7, example: "The car deck is full" }] });
    await userEvent.click(await screen.findByRole("button", { name: "Words without a term …" }));
    await userEvent.click(await screen.findByRole("button", { name: "car deck" }));
    expect(await screen.findByRole("textbox", { name: "Term" })).toHaveValue("car deck");
  });

  it("tells what a file says otherwise", async () => {
    open({ "POST /api/terms/file": { terms: 4, added: 1, filled: 2, told: ["ramp, de: the file says “Klappe”."] } });
    const take = await screen.findByLabelText("Take a file in …", { selector: "input" });
    await userEvent.upload(take, new File(["<tbx/>"], "words.tbx"));
    expect(await screen.findByText("4 terms; 1 new, 2 filled.")).toBeInTheDocument();
    expect(screen.getByText("ramp, de: the file says “Klappe”.")).toBeInTheDocument();
  });
});
