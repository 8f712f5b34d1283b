import { screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { beforeEach, describe, expect, it, vi } from "vitest";
import type { Schemas } from "../../api/client";
import { aLanguage, aPerson, aTable, show } from "../../test/builders";
import { changes, refusal, serve, type Asked } from "../../test/server";
import { ChecksPage } from "./ChecksPage";

const kind = (name: string, stops: number, minds: number): Schemas["KindCount"] => ({
  kind: name,
  stops,
  minds,
  usually: stops > 0 ? "stop" : "mind",
  byLanguage: {},
});

const counts = (part: Partial<Schemas["FindingCounts"]> = {}): Schemas["FindingCounts"] => ({
  kinds: [kind("space", 0, 5), kind("placeholder", 2, 0), kind("capital", 0, 0)],
  texts: 1200,
  toMend: 7,
  stopped: 2,
  again: { tables: 0, stopped: 0, done: 0, total: 0 },
  ...part,
});

const place = (part: Partial<Schemas["FindingPlace"]> = {}): Schemas["FindingPlace"] => ({
  entry: 11,
  table: "ramp-panel",
  key: "boarding.gate",
  context: "",
  section: "",
  shape: "plain",
  source: { other: "Gate {gate}" },
  language: "de",
  ofSource: false,
  text: { other: "Tor { gate}" },
  settled: false,
  version: 3,
  findings: [
    {
      kind: "placeholder",
      code: "placeholder-malformed",
      severity: "blocker",
      form: "other",
      sentence: "“{ gate}” has a space in it and would be shown as it stands.",
      values: { said: "{ gate}" },
      start: 4,
      end: 11,
      mend: "Make it {gate}",
      mended: "Tor {gate}",
    },
  ],
  ...part,
});

const mended: Schemas["MendedText"] = {
  entry: 11,
  table: "ramp-panel",
  key: "boarding.gate",
  language: "de",
  version: 3,
  settled: false,
  before: { other: "Tor { gate}" },
  after: { other: "Tor {gate}" },
  labels: ["Make it {gate}"],
};

function open(answers: Parameters<typeof serve>[0] = {}, me = aPerson({ coordinator: true })): Asked[] {
  const asked = serve({
    "GET /api/tables": [aTable({ languages: [aLanguage("de", "German")] })],
    "GET /api/products": [],
    "GET /api/findings/counts": counts(),
    "GET /api/findings/mends": { texts: [mended], looked: 2 },
    "GET /api/findings": { places: [place()], right: [] },
    "POST /api/cells/changes": { change: 7, changed: 1, refused: [], refusedInAll: 0, lowered: [], loweredInAll: 0 },
    "POST /api/changes/7/undo": { change: 8, amount: 1, refused: [], lowered: [] },
    ...answers,
  });
  show(<ChecksPage me={me} />, "/checks");
  return asked;
}

describe("the checks", () => {
  beforeEach(() => {
    vi.restoreAllMocks();
    localStorage.clear();
  });

  it("tell the kinds that stop something first, and show the first of them", async () => {
    open();
    const kinds = within(await screen.findByRole("navigation", { name: "Kinds of findings" })).getAllByRole("button");
    expect(kinds.map((one) => one.textContent)).toEqual([
      "Placeholder lost or changed2stops settling",
      "Spaced differently5to mind",
      "Capital letter differs0to mind",
      "What counts as wrong …",
    ]);
    expect(kinds[0]).toHaveAttribute("aria-current", "true");
    expect(await screen.findByText(/has a space in it/)).toBeInTheDocument();
    expect(screen.getByText("7 in 1,200 texts")).toBeInTheDocument();
    expect(screen.getByRole("link", { name: "boarding.gate" })).toHaveAttribute(
      "href",
      "/ledger?table=ramp-panel&in=de&words=boarding.gate",
    );
  });

  it("mend one text by its button, and take that back by Ctrl+Z", async () => {
    const asked = open();
    await userEvent.click(await screen.findByRole("button", { name: "Make it {gate}" }));
    expect(await screen.findByText("1 text was mended.")).toBeInTheDocument();
    expect(changes(asked)[0]?.json).toEqual({
      action: "PUT_FORWARD",
      meaningConfirmed: false,
      cells: [{ entry: 11, language: "de", version: 3, text: "Tor {gate}" }],
    });
    await userEvent.keyboard("{Control>}z{/Control}");
    expect(await screen.findByText("Everything is as it was before.")).toBeInTheDocument();
    expect(asked.filter((one) => one.path === "/api/changes/7/undo")).toHaveLength(1);
    await userEvent.keyboard("{Control>}z{/Control}");
    expect(asked.filter((one) => one.path === "/api/changes/7/undo")).toHaveLength(1);
  });

  it("mend all that are sure after a look, as one change", async () => {
    const other = { ...mended, entry: 12, key: "boarding.door" };
    const asked = open({ "GET /api/findings/mends": { texts: [mended, other], looked: 3 } });
    expect(await screen.findByText("2 of these 3 can be mended in one sure way.")).toBeInTheDocument();
    await userEvent.click(screen.getByRole("button", { name: "Look at the 2 …" }));
    const dialog = await screen.findByRole("dialog", { name: "Mend 2 texts" });
    await userEvent.click(within(dialog).getByRole("button", { name: "Cancel" }));
    expect(changes(asked)).toHaveLength(0);
    await userEvent.click(screen.getByRole("button", { name: "Look at the 2 …" }));
    await userEvent.click(await screen.findByRole("button", { name: "Mend 2" }));
    await waitFor(() => expect(changes(asked)).toHaveLength(1));
    expect((changes(asked)[0]?.json as { cells: unknown[] }).cells).toHaveLength(2);
  });

  it("say what the server says against a mend", async () => {
    open({ "POST /api/cells/changes": refusal(409, "cell-moved-on", "Someone changed this text meanwhile.") });
    await userEvent.click(await screen.findByRole("button", { name: "Make it {gate}" }));
    expect(await screen.findByText("Someone changed this text meanwhile.")).toBeInTheDocument();
  });

  it("let a reviewer say why something is right, and nobody else", async () => {
    const asked = open(
      { "PUT /api/entries/11/cells/de/exceptions/placeholder": {} },
      aPerson({ levels: { de: "reviewer" } }),
    );
    await userEvent.click(await screen.findByRole("button", { name: "This is right …" }));
    await userEvent.type(
      await screen.findByRole("textbox", { name: /Why it is right/ }),
      "The needle shows it.{Enter}",
    );
    await waitFor(() =>
      expect(asked.find((one) => one.path.endsWith("/exceptions/placeholder"))?.json).toEqual({
        text: { other: "Tor { gate}" },
        reason: "The needle shows it.",
      }),
    );
  });

  it("show a contributor nothing that only reviewers may", async () => {
    open({}, aPerson({ levels: { de: "contributor" } }));
    expect(await screen.findByRole("button", { name: "Make it {gate}" })).toBeInTheDocument();
    expect(screen.queryByRole("button", { name: "This is right …" })).not.toBeInTheDocument();
  });

  it("show what was said to be right, by whom, to be taken back", async () => {
    const right = place({ entry: 12, key: "ramp.angle", findings: [], right: "The needle shows it.", by: "Oskar" });
    const asked = open({
      "GET /api/findings": { places: [], right: [right] },
      "DELETE /api/entries/12/cells/de/exceptions/placeholder": {},
    });
    expect(await screen.findByText("This is right: The needle shows it.")).toBeInTheDocument();
    expect(screen.getByText("said by Oskar")).toBeInTheDocument();
    await userEvent.click(screen.getByRole("button", { name: "Take back" }));
    await waitFor(() => expect(asked.some((one) => one.path.includes("/12/cells/de/exceptions/"))).toBe(true));
  });

  it("say that counts are catching up, and let a coordinator stop that", async () => {
    const asked = open({
      "GET /api/findings/counts": counts({ again: { tables: 1, stopped: 0, done: 30, total: 120 } }),
      "POST /api/findings/again/stop": {},
    });
    expect(await screen.findByText(/catching up: 25% looked at again/)).toBeInTheDocument();
    await userEvent.click(screen.getByRole("button", { name: "Stop" }));
    await waitFor(() => expect(asked.some((one) => one.path === "/api/findings/again/stop")).toBe(true));
  });

  it("say so when nothing is wrong", async () => {
    open({ "GET /api/findings/counts": counts({ kinds: [kind("space", 0, 0)], toMend: 0 }) });
    expect(await screen.findByText("Nothing would break")).toBeInTheDocument();
  });
});
