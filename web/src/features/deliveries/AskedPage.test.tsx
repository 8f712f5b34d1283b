import { screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { Route, Routes } from "react-router";
import { describe, expect, it } from "vitest";
import type { Schemas } from "../../api/client";
import { show } from "../../test/builders";
import { refusal, serve, type Asked } from "../../test/server";
import { AskedPage } from "./AskedPage";

const row = (some: Partial<Schemas["UseRow"]> = {}): Schemas["UseRow"] => ({
  token: 7,
  name: "Bridge app",
  ended: false,
  what: "texts",
  language: "fi",
  answered: 12,
  unchanged: 340,
  refused: 0,
  bytes: 81_200,
  last: "2026-11-27T12:00:00Z",
  ...some,
});

function open(use: unknown, at = "/deliveries/panel/asked"): Asked[] {
  const asked = serve({
    "GET /api/products/panel/delivery": refusal(404, "no-such-product", "gone"),
    "GET /api/products/panel/bundles/use": use,
  });
  show(
    <Routes>
      <Route path="/deliveries/:slug/asked" element={<AskedPage />} />
    </Routes>,
    at,
  );
  return asked;
}

describe("what a product asked for", () => {
  it.each([
    ["READ", /^Bundles come from the replica of the database\.$/],
    ["BEHIND", /did not have everything yet/],
    ["AWAY", /^The replica of the database has been away since .*2026, \d+:\d\d;/],
    ["UNASKED", /nobody needed it/],
  ])("says that the replica is %s", async (standing, said) => {
    open({ days: 30, rows: [row()], byDay: [], replica: { standing, since: "2026-11-27T12:00:00Z" } });
    expect(await screen.findByText(said)).toBeInTheDocument();
  });

  it("says nothing of a replica that there is not", async () => {
    open({ days: 30, rows: [row()], byDay: [] });
    await screen.findByRole("row", { name: /^Bridge app/ });
    expect(screen.queryByText(/replica/)).not.toBeInTheDocument();
  });

  it("is told by who asked and what for, with what was refused", async () => {
    open({
      days: 30,
      rows: [
        row(),
        row({ token: 9, name: "Old app", ended: true, what: "changes", answered: 1, unchanged: 0, bytes: 200 }),
        row({ token: 0, name: undefined, what: "list", language: "", answered: 2, unchanged: 0, bytes: 0 }),
        row({ token: -1, name: undefined, language: "", answered: 0, unchanged: 0, refused: 31, bytes: 0 }),
      ],
      byDay: [
        { day: "2026-11-26", answered: 5, unchanged: 40, refused: 31, bytes: 1_400 },
        { day: "2026-11-27", answered: 10, unchanged: 300, refused: 0, bytes: 2_080_000 },
      ],
    });
    expect(await screen.findByText(/15 answers, nothing new 340 times, 3 MB sent/)).toBeInTheDocument();
    expect(screen.getByText("31 requests were refused.")).toBeInTheDocument();
    const cells = (name: RegExp) =>
      within(screen.getByRole("row", { name }))
        .getAllByRole("cell")
        .map((cell) => cell.textContent);
    expect(cells(/^Bridge app/).slice(0, 6)).toEqual(["All texts", "Finnish", "12", "340", "0", "82 kB"]);
    expect(screen.getByRole("row", { name: /^Old app ?· ended/ })).toBeInTheDocument();
    expect(cells(/^Anybody, without a token/).slice(0, 3)).toEqual(["The list of languages", "", "2"]);
    expect(cells(/^Somebody without a good token/)[4]).toBe("31");
    expect(screen.getByRole("row", { name: /26.*76/ })).toBeInTheDocument();
  });

  it("is looked at for the days that the address says, and for others when asked", async () => {
    const asked = open({ days: 7, rows: [], byDay: [] }, "/deliveries/panel/asked?days=7");
    expect(await screen.findByText("Nothing was asked for in this time.")).toBeInTheDocument();
    expect(asked.some((one) => one.path.endsWith("?days=7"))).toBe(true);
    await userEvent.click(screen.getByLabelText("How far back"));
    await userEvent.click(await screen.findByRole("option", { name: "The last 92 days" }));
    await waitFor(() => expect(asked.some((one) => one.path.endsWith("?days=92"))).toBe(true));
  });

  it("is not shown to those who may not see it, who are told why", async () => {
    open(refusal(403, "forbidden", "Only coordinators see who fetches texts."));
    expect(await screen.findByText("Only coordinators see who fetches texts.")).toBeInTheDocument();
    expect(screen.getByRole("button", { name: "Try again" })).toBeInTheDocument();
  });
});
