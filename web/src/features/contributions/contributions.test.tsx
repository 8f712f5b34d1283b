import { screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { beforeEach, describe, expect, it, vi } from "vitest";
import { aLanguage, aPerson, show } from "../../test/builders";
import { changes, refusal, serve } from "../../test/server";
import { Contributions } from "./Contributions";
import { lasted } from "./said";
import { StandingRules } from "./StandingRules";
import { Trend } from "./Trend";
import { readPeriod, type Contribution, type Figures } from "./useContributions";

const none: Figures = {
  offered: 0,
  settled: 0,
  byRule: 0,
  amended: 0,
  returned: 0,
  setAside: 0,
  withdrawn: 0,
  waiting: 0,
  words: 0,
  changed: 0,
  changedOf: 0,
};
const hanne: Contribution = {
  language: "de",
  person: 9,
  name: "Hanne Brook",
  own: { ...none, offered: 12, settled: 7, byRule: 2, amended: 3, changed: 15, changedOf: 60, medianSeconds: 7_200 },
  machine: none,
  inARow: 4,
  weeks: [{ monday: "2026-11-16", settled: 7, amended: 3, returned: 0 }],
};
const german = [aLanguage("de", "German")];

describe("contributions", () => {
  beforeEach(() => void vi.restoreAllMocks());

  it("tells figures by name, and a machine's texts in a row of their own", async () => {
    serve({ "GET /api/contributions": [{ ...hanne, machine: { ...none, offered: 5, settled: 5 } }] });
    show(<Contributions me={aPerson({ levels: { de: "reviewer" } })} languages={german} />);
    const row = (await screen.findByRole("link", { name: "Hanne Brook" })).closest("tr");
    const said = [...(row?.cells ?? [])].map((cell) => cell.textContent);
    expect(said.slice(1, 9)).toEqual(["12", "7 2 by rule", "3 25% changed", "0", "0", "0", "2 hours", "4"]);
    expect(screen.getByRole("rowheader", { name: "put forward from the memory or a machine" })).toBeInTheDocument();
  });

  it("asks for the period and language that one chooses", async () => {
    const asked = serve({ "GET /api/contributions": [] });
    show(<Contributions me={aPerson({ levels: { de: "reviewer" } })} languages={german} />);
    expect(await screen.findByText(/Nothing was offered or answered/)).toBeInTheDocument();
    await userEvent.click(screen.getByRole("combobox", { name: "Language" }));
    await userEvent.click(screen.getByRole("option", { name: "German" }));
    await waitFor(() => expect(asked.at(-1)?.path).toMatch(/in=de/));
    expect(screen.getByRole("link", { name: "Report" })).toHaveAttribute("href", expect.stringMatching("^/reports/de"));
    expect(screen.getByRole("link", { name: "Download as CSV" })).toHaveAttribute(
      "href",
      expect.stringMatching(/^\/api\/contributions\.csv\?from=.*&in=de$/),
    );
  });

  it("shows nothing to who reviews nothing", () => {
    const asked = serve({ "GET /api/contributions": [] });
    const { container } = show(<Contributions me={aPerson()} languages={german} />);
    expect(container).toBeEmptyDOMElement();
    expect(changes(asked)).toEqual([]);
  });

  it("says how long answers took in the unit that says enough", () => {
    expect([5, 90 * 60, 3_600 * 47, 3_600 * 50, 86_400 * 9].map(lasted)).toEqual([
      "1 minute",
      "2 hours",
      "47 hours",
      "2 days",
      "9 days",
    ]);
  });

  it("reads a period, ninety days to today where an address names none", () => {
    const now = Date.parse("2026-11-23T12:00:00Z");
    expect(readPeriod(new URLSearchParams(), now)).toEqual({ from: "2026-08-26", to: "2026-11-23" });
    const query = new URLSearchParams("from=2026-01-05&to=nonsense");
    expect(readPeriod(query, now)).toEqual({ from: "2026-01-05", to: "2026-11-23" });
  });

  it("draws twelve weeks up to the one of the last day, and says them in words", () => {
    show(<Trend weeks={hanne.weeks} to="2026-11-22" />);
    const drawing = screen.getByRole("img");
    expect(drawing).toHaveAccessibleName("week of 16 Nov 2026: 7 settled, 3 amended, 0 returned");
    const bars = [...drawing.querySelectorAll("rect.settled")].map((bar) => Number(bar.getAttribute("height")));
    expect(bars).toHaveLength(12);
    expect(bars.findIndex((height) => height > 0)).toBe(11);
  });
});

describe("standing rules", () => {
  beforeEach(() => void vi.restoreAllMocks());

  it("are off until one is set, and can be switched off again", async () => {
    let rules: unknown[] = [];
    const asked = serve({ "GET /api/standing": () => rules, "PUT /api/standing/de": null });
    show(<StandingRules languages={german} />);
    expect(await screen.findByText("off: a reviewer answers every offer")).toBeInTheDocument();
    await userEvent.click(screen.getByRole("button", { name: "Change the rule of German" }));
    const field = screen.getByRole("spinbutton", { name: "Settled in a row" });
    await userEvent.clear(field);
    rules = [{ language: "de", after: 30, by: "Mirja Tallo", at: "2026-11-20T10:00:00Z" }];
    await userEvent.type(field, "30{Enter}");
    expect(await screen.findByText(/after 30 settled in a row; set by Mirja Tallo/)).toBeInTheDocument();
    await userEvent.click(screen.getByRole("button", { name: "Switch the rule of German off" }));
    await waitFor(() => expect(changes(asked).map((one) => one.json)).toEqual([{ after: 30 }, { after: null }]));
  });

  it("say why the server refuses one", async () => {
    serve({ "GET /api/standing": [], "PUT /api/standing/de": refusal(422, "bad-rule", "A rule needs 3 to 1000.") });
    show(<StandingRules languages={german} />);
    await userEvent.click(await screen.findByRole("button", { name: "Change the rule of German" }));
    await userEvent.click(screen.getByRole("button", { name: "Set" }));
    expect(await screen.findByText("A rule needs 3 to 1000.")).toBeInTheDocument();
  });
});
