import { screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { beforeEach, describe, expect, it, vi } from "vitest";
import { aTable, show } from "../../test/builders";
import { changes, serve } from "../../test/server";
import { Bell } from "./Bell";
import type { Notice } from "./useBell";

const notice = (part: Partial<Notice>): Notice => ({
  kind: "WAITING",
  n: 2,
  at: "2026-11-20T10:00:00Z",
  fresh: false,
  ...part,
});

function ring(notices: Notice[]) {
  const asked = serve({ "GET /api/tables": [aTable()], "GET /api/bell": notices, "PUT /api/bell/seen": null });
  show(<Bell />);
  return asked;
}

describe("the bell", () => {
  beforeEach(() => void vi.restoreAllMocks());

  it("says why a product did not go out by itself, and leads to its deliveries", async () => {
    ring([
      notice({ kind: "NOT_DELIVERED", key: "Deck panel", table: "deck-panel", said: "Ramp lacks a source.", n: 1 }),
      notice({ kind: "NOT_DELIVERED", key: "Web shop", table: "web-shop", said: "Polish is not whole.", n: 1 }),
    ]);
    await userEvent.click(await screen.findByRole("button", { name: /Notices/ }));
    expect(screen.getByRole("link", { name: /Deck panel was not delivered: Ramp lacks a source\./ })).toHaveAttribute(
      "href",
      "/deliveries/deck-panel",
    );
    expect(screen.getByRole("link", { name: /Web shop was not delivered/ })).toBeInTheDocument();
  });

  it("counts what is new and leads to each; what was shown is no longer new", async () => {
    const asked = ring([
      notice({ kind: "CAME_BACK", language: "de", n: 1, at: "2026-11-22T10:00:00Z", fresh: true }),
      notice({ language: "fi", fresh: true }),
      notice({ kind: "ANSWERED", entry: 7, key: "ramp.up", table: "ramp-panel" }),
    ]);
    await userEvent.click(await screen.findByRole("button", { name: "Notices: 2 new" }));
    expect(screen.getByRole("link", { name: /1 of your German offers came back/ })).toHaveAttribute(
      "href",
      "/offers?show=returned",
    );
    expect(screen.getByRole("link", { name: /2 offers wait in Finnish/ })).toHaveAttribute("href", "/review?in=fi");
    expect(screen.getByRole("link", { name: /question about ramp.up/ })).toHaveAttribute(
      "href",
      "/ledger?table=ramp-panel&entry=7",
    );
    expect(changes(asked)).toEqual([]);
    await userEvent.keyboard("{Escape}");
    await waitFor(() => expect(changes(asked)[0]?.json).toEqual({ until: "2026-11-22T10:00:00Z" }));
  });

  it("is quiet when nothing waits", async () => {
    const asked = ring([]);
    await userEvent.click(await screen.findByRole("button", { name: "Notices: 0 new" }));
    expect(await screen.findByText("Nothing waits for you.")).toBeInTheDocument();
    await userEvent.keyboard("{Escape}");
    expect(changes(asked)).toEqual([]);
  });
});
