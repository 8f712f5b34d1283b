import { screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { beforeEach, describe, expect, it, vi } from "vitest";
import { aLanguage, aPerson, aTable, show } from "../../test/builders";
import { changes, refusal, serve } from "../../test/server";
import { undoing } from "../../sheet/undoing";
import { OffersPage } from "./OffersPage";
import type { OfferLine } from "./useOffers";
import { whereToBegin } from "./whereToBegin";

const line = (offer: number, part: Partial<OfferLine> = {}): OfferLine => ({
  offer,
  entry: offer + 100,
  language: "de",
  table: "ramp-panel",
  tableName: "Ramp panel",
  key: `ramp.${offer}`,
  source: "Ramp up",
  shape: "plain",
  maxLength: 0,
  text: "Rampe rauf",
  said: "",
  byMachine: false,
  answer: "open",
  byRule: false,
  at: new Date().toISOString(),
  cameBack: false,
  version: 4,
  present: true,
  ...part,
});
const cameBack = line(1, {
  answer: "returned",
  cameBack: true,
  reason: "Say hoch.",
  answeredBy: "Oskar Veldre",
  answeredAt: new Date().toISOString(),
});

function open(offers: OfferLine[], more: Record<string, unknown> = {}, Page = OffersPage) {
  const counts: Record<string, number> = {};
  for (const { answer } of offers) counts[answer] = (counts[answer] ?? 0) + 1;
  const asked = serve({
    "GET /api/tables": [aTable()],
    "GET /api/intakes": [],
    "GET /api/bell": [],
    "GET /api/drafts": [],
    "GET /api/people/5/offers": { offers, counts },
    "POST /api/entries/101/cells/de/changes": { change: 7, cell: {} },
    ...more,
  });
  show(<Page me={aPerson()} />);
  return asked;
}

describe("my offers", () => {
  beforeEach(() => {
    vi.restoreAllMocks();
    undoing.forget();
  });

  it("improves what came back in one step, with a word to the reviewer, and takes it back", async () => {
    const asked = open([cameBack], { "POST /api/changes/7/undo": { change: 8, amount: 1, refused: [], lowered: [] } });
    expect(await screen.findByText("Say hoch.")).toBeInTheDocument();
    await userEvent.click(screen.getByRole("button", { name: "Improve or answer" }));
    const text = screen.getByRole("textbox", { name: "Your text" });
    expect(text).toHaveFocus();
    await userEvent.clear(text);
    await userEvent.type(text, "Rampe hoch");
    await userEvent.type(screen.getByRole("textbox", { name: "To the reviewer" }), "You are right.");
    await userEvent.click(screen.getByRole("button", { name: "Put forward" }));
    await waitFor(() => expect(changes(asked)).toHaveLength(1));
    expect(changes(asked)[0]).toMatchObject({
      path: "/api/entries/101/cells/de/changes",
      json: { action: "PUT_FORWARD", version: 4, text: "Rampe hoch", reason: "You are right." },
    });
    await userEvent.click(screen.getByRole("button", { name: "Undo the last" }));
    expect(await screen.findByText("Taken back.")).toBeInTheDocument();
  });

  it("puts the same text forward again only with a reason", async () => {
    const asked = open([cameBack]);
    await userEvent.click(await screen.findByRole("button", { name: "Improve or answer" }));
    expect(screen.getByRole("button", { name: "Put forward" })).toBeDisabled();
    await userEvent.keyboard("{Enter}");
    expect(changes(asked)).toEqual([]);
    await userEvent.type(
      screen.getByRole("textbox", { name: "To the reviewer" }),
      "Rauf is what the crew says.{Enter}",
    );
    await waitFor(() => expect(changes(asked)).toHaveLength(1));
    expect(changes(asked)[0]?.json).toMatchObject({ text: "Rampe rauf", reason: "Rauf is what the crew says." });
  });

  it("withdraws what waits, and says why when that is too late", async () => {
    open([line(1)], {
      "POST /api/entries/101/cells/de/changes": refusal(422, "offer-not-open", "This offer has been answered."),
    });
    await userEvent.click(await screen.findByRole("button", { name: "Withdraw" }));
    expect(await screen.findByRole("alert")).toHaveTextContent("This offer has been answered.");
  });

  it("has the faces at hand that its texts are written in", async () => {
    const name = { ...aLanguage("ja", "Japanese").language, script: "Jpan" };
    const loadFontFor = vi.fn();
    // The page is read anew: others have read it with the real faces.
    vi.resetModules();
    vi.doMock("../../theme/fonts", () => ({ loadFontFor, loadFontsOf: vi.fn() }));
    const { OffersPage: Anew } = await import("./OffersPage");
    open(
      [line(1, { language: "ja", text: "ランプを上げる" })],
      { "GET /api/tables": [aTable({ languages: [{ ...aLanguage("ja", "Japanese"), language: name }] })] },
      Anew,
    );
    await screen.findByText("ランプを上げる");
    await waitFor(() => expect(loadFontFor).toHaveBeenCalledWith("Jpan"));
    vi.doUnmock("../../theme/fonts");
    vi.resetModules();
  });

  it("says something about what waits", async () => {
    const asked = open([line(1)], { "PUT /api/offers/1/note": null });
    await userEvent.click(await screen.findByRole("button", { name: "Say something to the reviewer" }));
    await userEvent.type(screen.getByRole("textbox", { name: "To the reviewer" }), "Or Klappe?{Enter}");
    await waitFor(() => expect(changes(asked)[0]?.json).toEqual({ note: "Or Klappe?" }));
  });

  it("tells what became of each: amended with the difference, settled by rule, set aside", async () => {
    open([
      line(1, { answer: "amended", amended: "Rampe hoch", answeredBy: "Oskar Veldre", changed: 3, changedOf: 10 }),
      line(2, { answer: "settled", byRule: true }),
      line(3, { answer: "set_aside" }),
    ]);
    const amended = await screen.findByRole("listitem", { name: /ramp\.1/ });
    expect(within(amended).getByText(/amended by Oskar Veldre, .*: 30% changed/)).toBeInTheDocument();
    expect(amended.querySelector("ins")).toHaveTextContent("hoch");
    expect(screen.getByText(/settled by rule/)).toBeInTheDocument();
    expect(screen.getByText(/set aside for another text/)).toBeInTheDocument();
    expect(screen.queryByRole("button", { name: "Withdraw" })).not.toBeInTheDocument();
  });

  it("begins, for who has offered nothing yet, where help is needed most", async () => {
    const states = { offered: 0, returned: 0, stale: 1, settled: 2, pencilled: 0, untranslated: 7 };
    open([], { "GET /api/tables": [aTable({ languages: [aLanguage("de", "German", { states })] })] });
    expect(await screen.findByText("7 of 10 to write")).toBeInTheDocument();
    expect(screen.getByRole("link", { name: "begin with the short ones" })).toHaveAttribute(
      "href",
      "/ledger?table=ramp-panel&in=de&only=untranslated&by=short",
    );
    expect(screen.getByRole("link", { name: "1 stale text to look at" })).toBeInTheDocument();
  });
});

describe("where to begin", () => {
  const needs = (slug: string, untranslated: number, entries = 10) =>
    aTable({ slug, entries, languages: [aLanguage("de", "German", { states: { untranslated, stale: 0 } })] });

  it("names the tables with the largest share to write, three at most, in one's own languages", () => {
    const tables = [needs("few", 1), needs("none", 0), needs("most", 9), needs("half", 5), needs("large", 40, 100)];
    expect(whereToBegin(tables, (tag) => tag === "de")[0]?.needs.map((need) => need.table.slug)).toEqual([
      "most",
      "half",
      "large",
    ]);
    expect(whereToBegin(tables, (tag) => tag === "fi")).toEqual([]);
  });
});
