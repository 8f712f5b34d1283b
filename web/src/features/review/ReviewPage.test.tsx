import { screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { beforeEach, describe, expect, it, vi } from "vitest";
import type { Schemas } from "../../api/client";
import { aLanguage, aPerson, aTable, show } from "../../test/builders";
import { changes, serve } from "../../test/server";
import { undoing } from "../../sheet/undoing";
import { ReviewPage } from "./ReviewPage";

const strip = (offer: number, part: Partial<Schemas["Strip"]> = {}): Schemas["Strip"] => ({
  offer,
  entry: offer + 100,
  version: 3,
  table: "ramp-panel",
  tableName: "Ramp panel",
  key: `ramp.${offer}`,
  context: "",
  shape: "plain",
  source: "Ramp up",
  note: "",
  reference: "",
  usedBy: [],
  said: "",
  byMachine: false,
  inForce: "Rampe hoch",
  settled: true,
  text: "Rampe oben",
  authorId: 9,
  author: "Hanne Brook",
  at: new Date().toISOString(),
  offers: 1,
  maxLength: 0,
  blockers: [],
  warnings: [],
  ...part,
});
const rampTerm = { term: "ramp", note: "", text: "Rampe", avoid: ["Klappe"] };
const hanne = { id: 9, name: "Hanne Brook", waiting: 3, settled: 9, amended: 2, returned: 1 };
const offered = { offered: 3, returned: 0, stale: 0, settled: 7, pencilled: 0, untranslated: 0 };

async function open(
  strips: Schemas["Strip"][],
  many: unknown = { change: 1, changed: 1, refused: [], refusedInAll: 0 },
) {
  let waiting = strips;
  const asked = serve({
    "GET /api/tables": [aTable({ languages: [aLanguage("de", "German", { states: offered })] })],
    "GET /api/intakes": [],
    "GET /api/review": () => ({
      strips: waiting,
      matching: waiting.length,
      newest: Math.max(0, ...waiting.map((one) => one.offer)),
      contributors: [hanne],
    }),
    "POST /api/cells/changes": many,
    "POST /api/entries/101/cells/de/check": { findings: [], terms: [rampTerm], message: [] },
    "POST /api/changes/1/undo": { change: 2, amount: 1, refused: [], lowered: [] },
  });
  show(<ReviewPage me={aPerson({ levels: { de: "reviewer" } })} />);
  await screen.findAllByRole("article");
  return { asked, left: (now: Schemas["Strip"][]) => (waiting = now) };
}

const current = () => document.querySelector(".strip.here .key")?.textContent;

describe("review", () => {
  beforeEach(() => {
    vi.restoreAllMocks();
    undoing.forget();
    localStorage.clear();
    Element.prototype.scrollIntoView = vi.fn();
  });

  it("settles with S; the next strip is under the cursor at once", async () => {
    const { asked, left } = await open([strip(1), strip(2)]);
    left([strip(2)]);
    await userEvent.keyboard("s");
    expect(current()).toBe("ramp.2");
    await waitFor(() => expect(changes(asked)).toHaveLength(1));
    expect(changes(asked)[0]?.json).toEqual({
      action: "SETTLE",
      cells: [{ entry: 101, language: "de", offer: 1 }],
      meaningConfirmed: true,
    });
  });

  it("takes the last answer back by a button, when nothing is left to answer too", async () => {
    const { asked, left } = await open([strip(1)]);
    left([]);
    await userEvent.keyboard("s");
    await screen.findByText("Nothing waits for an answer.");
    left([strip(1)]);
    await userEvent.click(screen.getByRole("button", { name: /Undo the last/ }));
    expect(await screen.findByRole("article")).toHaveAccessibleName(/ramp\.1/);
    expect(asked.filter((one) => one.path === "/api/changes/1/undo")).toHaveLength(1);
  });

  it("takes back the answer that was given last, even while it is on its way", async () => {
    let arrive: (many: unknown) => void = () => undefined;
    const { asked } = await open([strip(1), strip(2)], () => new Promise((resolve) => (arrive = resolve)));
    await userEvent.keyboard("s{Control>}z{/Control}");
    expect(asked.some((one) => one.path.endsWith("/undo"))).toBe(false);
    arrive(Response.json({ change: 1, changed: 1, refused: [], refusedInAll: 0 }));
    await waitFor(() => expect(asked.some((one) => one.path === "/api/changes/1/undo")).toBe(true));
    expect(await screen.findByText("Taken back.")).toBeInTheDocument();
  });

  it("brings back what is refused, with the reason", async () => {
    const sentence = "This offer has been answered or taken back in the meantime.";
    const refused = [{ entry: 101, key: "ramp.1", language: "de", code: "offer-not-open", sentence }];
    await open([strip(1), strip(2)], { change: 1, changed: 0, refused, refusedInAll: 1 });
    await userEvent.keyboard("s");
    expect((await screen.findAllByText(sentence)).length).toBeGreaterThan(0);
    expect(screen.getAllByRole("article")).toHaveLength(2);
  });

  it("settles nothing past a blocker, neither alone nor among others", async () => {
    const lost = {
      kind: "placeholder",
      code: "placeholder-missing",
      severity: "blocker",
      form: "one",
      sentence: "The placeholder {n} is missing.",
      values: { placeholder: "{n}" },
      start: -1,
      end: -1,
    };
    const blocked = strip(1, { shape: "plural", blockers: [lost] });
    const { asked } = await open([blocked, strip(2), strip(3)]);
    expect(screen.getByText(/one: The placeholder \{n\} is missing\./)).toBeVisible();
    expect(screen.getByRole("button", { name: /Settle/ })).toBeDisabled();
    await userEvent.keyboard("s");
    expect(changes(asked)).toEqual([]);
    await userEvent.keyboard("{Shift>}{ArrowDown}{ArrowDown}{/Shift}s");
    await waitFor(() => expect(changes(asked)).toHaveLength(1));
    const sent = changes(asked)[0]?.json as { cells: { offer: number }[] };
    expect(sent.cells.map((cell) => cell.offer)).toEqual([2, 3]);
  });

  it("confirms for a single offer that it fits a rewritten source, never for many at once", async () => {
    const { asked } = await open([strip(1, { sourceThen: "Ramp" }), strip(2)]);
    await userEvent.keyboard("{Shift>}{ArrowDown}{/Shift}s");
    await waitFor(() => expect(changes(asked)).toHaveLength(1));
    expect(changes(asked)[0]?.json).toMatchObject({ action: "SETTLE", meaningConfirmed: false });
    expect(screen.getByText(/offered for an older source and stays stale/)).toBeInTheDocument();
  });

  it("leads on to all that waits when nothing matches", async () => {
    serve({
      "GET /api/tables": [aTable({ languages: [aLanguage("de", "German", { states: offered })] })],
      "GET /api/intakes": [],
      "GET /api/review": { strips: [], matching: 0, newest: 0, contributors: [hanne] },
    });
    show(<ReviewPage me={aPerson({ levels: { de: "reviewer" } })} />, "/review?in=de&checks=blocked");
    const link = await screen.findByRole("link", { name: "Look at all that waits in German" });
    expect(link).toHaveAttribute("href", "/review?in=de");
  });

  it("returns a selection with one of one's own reasons, which is the first next time", async () => {
    const { asked } = await open([strip(1), strip(2)]);
    await userEvent.keyboard("{Shift>}{ArrowDown}{/Shift}r");
    await userEvent.click(screen.getByText("Too long for its place."));
    await waitFor(() => expect(changes(asked)).toHaveLength(1));
    expect(changes(asked)[0]?.json).toMatchObject({ action: "RETURN", reason: "Too long for its place." });
    expect((JSON.parse(localStorage.getItem("mellow.reasons") ?? "[]") as string[])[0]).toBe("Too long for its place.");
  });

  it("takes the letters of a reason for letters", async () => {
    const { asked } = await open([strip(1), strip(2)]);
    await userEvent.keyboard("r");
    await userEvent.type(screen.getByRole("textbox", { name: "Reason" }), "As said: a rest{Enter}");
    await waitFor(() => expect(changes(asked)).toHaveLength(1));
    expect(changes(asked)[0]?.json).toMatchObject({ action: "RETURN", reason: "As said: a rest" });
  });

  it("shows offers for one cell side by side; settling one sets the others aside at once", async () => {
    const rival = strip(2, { entry: 101, offers: 2, text: "Rampe offen" });
    const { asked, left } = await open([strip(1, { offers: 2 }), rival, strip(3)]);
    expect(screen.getAllByText(/2 offers for this cell/)).toHaveLength(1);
    expect(document.querySelectorAll(".strip")).toHaveLength(2);
    await userEvent.keyboard("{ArrowRight}");
    expect(document.querySelector("article[aria-current]")).toHaveTextContent("offen");
    left([strip(3)]);
    await userEvent.keyboard("s");
    expect(screen.getAllByRole("article")).toHaveLength(1);
    expect(current()).toBe("ramp.3");
    await waitFor(() => expect(changes(asked)).toHaveLength(1));
    expect(changes(asked)[0]?.json).toMatchObject({ cells: [{ entry: 101, offer: 2 }] });
  });

  it("chooses between offers for one cell never by itself", async () => {
    const rival = strip(2, { entry: 101, offers: 2 });
    const { asked } = await open([strip(1, { offers: 2 }), rival, strip(3)]);
    await userEvent.keyboard("{Control>}a{/Control}s");
    await waitFor(() => expect(changes(asked)).toHaveLength(1));
    const sent = changes(asked)[0]?.json as { cells: { offer: number }[] };
    expect(sent.cells.map((cell) => cell.offer)).toEqual([3]);
    expect(screen.getByText(/2 of the chosen offers are for the same cells/)).toBeInTheDocument();
  });

  it("brings all offers of a cell back when settling one is refused", async () => {
    const rival = strip(2, { entry: 101, offers: 2 });
    const refused = [{ entry: 101, key: "ramp.1", language: "de", code: "blocked", sentence: "No." }];
    await open([strip(1, { offers: 2 }), rival], { change: 1, changed: 0, refused, refusedInAll: 1 });
    await userEvent.keyboard("s");
    await waitFor(() => expect(screen.getAllByRole("article")).toHaveLength(2));
    expect((await screen.findAllByText("No.")).length).toBeGreaterThan(0);
  });

  it("settles all that wait as one run, with what it leaves, once one has confirmed it", async () => {
    let polls = 0;
    const done = { change: 9, done: 40, total: 40, message: "", changed: 38, refused: 2 };
    const told = [
      { entry: 7, key: "ramp.7", language: "de", code: "blocked", sentence: "The placeholder {n} is missing." },
    ];
    const asked = serve({
      "GET /api/tables": [aTable({ languages: [aLanguage("de", "German", { states: offered })] })],
      "GET /api/intakes": [],
      "GET /api/bell": [],
      "GET /api/review": { strips: [strip(1), strip(2)], matching: 40, newest: 77, contributors: [hanne] },
      "POST /api/review/answers": { change: 9 },
      "GET /api/review/answers/9": () =>
        polls++ === 0 ? { ...done, status: "going", done: 10, told: [] } : { ...done, status: "done", told },
    });
    show(<ReviewPage me={aPerson({ levels: { de: "reviewer" } })} />);
    await screen.findAllByRole("article");
    await userEvent.keyboard("{Control>}a{/Control}");
    await userEvent.click(screen.getByRole("button", { name: "Settle all 40 that wait" }));
    expect(changes(asked)).toEqual([]);
    await userEvent.click(screen.getByRole("button", { name: "Settle 40 offers" }));
    expect(await screen.findByText("10 of 40")).toBeInTheDocument();
    expect(await screen.findByText(/38 offers are settled. 2 stay:/)).toBeInTheDocument();
    expect(screen.getByText(/The placeholder {n} is missing./)).toBeInTheDocument();
    expect(changes(asked)[0]?.json).toEqual({
      language: "de",
      tables: [],
      person: 0,
      days: 0,
      checks: "all",
      action: "SETTLE",
      upTo: 77,
    });
  });

  it("says what the wordbook agrees on beside the current strip only", async () => {
    await open([strip(1), strip(2)]);
    expect(await screen.findByRole("list", { name: "Terms of the wordbook" })).toHaveTextContent(
      "ramp → Rampe · not “Klappe”",
    );
    await userEvent.keyboard("{ArrowDown}");
    expect(screen.queryByRole("list", { name: "Terms of the wordbook" })).not.toBeInTheDocument();
  });

  it("shows what an offer for an older source was made for", async () => {
    await open([strip(1, { sourceThen: "Ramp", source: "Ramp up" })]);
    expect(screen.getByText(/changed its meaning since this was offered/)).toBeInTheDocument();
    expect(document.querySelector(".left ins")).toHaveTextContent("up");
  });
});
