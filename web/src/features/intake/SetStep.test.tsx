import { screen, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it, vi } from "vitest";
import type { Schemas } from "../../api/client";
import { aFile, aPerson, aTable, show } from "../../test/builders";
import { SetReport, SetStep } from "./SetStep";
import type { Intake } from "./useIntake";

function anIntake(
  files: Schemas["FileReply"][],
  part: Partial<Intake> = {},
  set: Partial<Schemas["SetReply"]> = {},
): Intake {
  return {
    id: 4,
    fileName: "l/*.yml",
    status: "open",
    person: "Mirja",
    createdAt: "2026-11-01T10:00:00Z",
    options: { settlesOwn: false, newTable: "L", source: "en", arrival: "SETTLED" },
    set: { pattern: "l/{}.yml", evidence: "ENGLISH", files, absent: [], waiting: 0, ...set },
    ...part,
  };
}

const files = [aFile("en", { source: true }), aFile("de"), aFile("fi")];

function shown(intake: Intake, tables = [aTable()]) {
  const decided = vi.fn();
  show(<SetStep intake={intake} tables={tables} me={aPerson({ coordinator: true })} busy={false} onDecide={decided} />);
  return decided;
}

describe("a set", () => {
  it("is one sentence, and says what told its source", () => {
    shown(anIntake(files));
    expect(document.querySelector(".sentence")).toHaveTextContent(
      "3 files become the new table L, written in English, in 2 other languages, arriving as settled.",
    );
    expect(screen.getByText(/One of the files is in English/)).toBeInTheDocument();
  });

  it("is written in another language by one choice", async () => {
    const decided = shown(anIntake(files));
    await userEvent.click(screen.getByRole("button", { name: "Written in: English" }));
    await userEvent.click(within(screen.getByRole("dialog")).getByText("German"));
    expect(decided).toHaveBeenCalledWith(
      expect.objectContaining({ options: expect.objectContaining({ source: "de" }) as unknown }),
    );
  });

  it("becomes an edition of a table, in that table's language", async () => {
    const decided = shown(anIntake(files));
    await userEvent.click(screen.getByRole("button", { name: /the new table L/ }));
    await userEvent.click(screen.getByText("Ramp panel"));
    expect(decided.mock.calls[0]?.[0]).toMatchObject({ options: { table: "ramp-panel", source: "en" }, files: [] });
  });

  it("goes on without files that cannot go in", async () => {
    const blocked = "l/pl.yml, line 3: found a tab; expected spaces.";
    const facts = {
      format: "yaml",
      charset: "",
      texts: 0,
      missing: 0,
      unknown: 0,
      problems: [],
      problemCount: 0,
      blocked,
    };
    const decided = shown(anIntake([...files, aFile("pl", { facts })], {}, { blocked, waiting: 1 }));
    expect(screen.getAllByText(/line 3: found a tab/)).toHaveLength(2);
    await userEvent.click(screen.getByRole("button", { name: "Go on without it" }));
    expect(decided.mock.calls[0]?.[0]).toMatchObject({ files: [{ path: "l/pl.yml", leftOut: true }] });
  });

  it("lets every row be corrected", async () => {
    const decided = shown(anIntake(files));
    const row = screen.getByRole("row", { name: /l\/fi.yml/ });
    await userEvent.click(within(row).getByRole("checkbox"));
    expect(decided.mock.calls[0]?.[0]).toMatchObject({ files: [{ path: "l/fi.yml", leftOut: true }] });
    const tag = within(row).getByRole("textbox");
    await userEvent.clear(tag);
    await userEvent.type(tag, "et{Enter}");
    expect(decided.mock.calls.at(-1)?.[0]).toMatchObject({ files: [{ path: "l/fi.yml", language: "et" }] });
  });

  it("changes the table's language with that of the file of the sources", async () => {
    const decided = shown(anIntake(files));
    const tag = within(screen.getByRole("row", { name: /l\/en.yml/ })).getByRole("textbox");
    await userEvent.clear(tag);
    await userEvent.type(tag, "en-GB{Enter}");
    expect(decided.mock.calls.at(-1)?.[0]).toMatchObject({ options: { source: "en-GB" } });
  });

  it("names what did not come this time", () => {
    shown(anIntake(files, {}, { absent: [{ path: "l/pl.yml", language: "pl" }] }));
    expect(screen.getByRole("row", { name: /Polish l\/pl.yml did not come this time/ })).toBeInTheDocument();
  });
});

describe("what came of a set", () => {
  it("stands in each file's row", () => {
    const report = {
      groups: [],
      settled: 10,
      offered: 0,
      pencilled: 0,
      stale: {},
      unchanged: 0,
      problems: [],
      problemCount: 0,
      languages: { de: { settled: 10, offered: 2, pencilled: 0, kept: 0 } },
    };
    show(
      <SetReport
        intake={anIntake([...files.slice(0, 2), aFile("fi", { leftOut: true })], {
          status: "applied",
          report,
          tableName: "L",
        })}
      />,
    );
    expect(screen.getByRole("row", { name: /German/ })).toHaveTextContent("10 settled · 2 offered");
    expect(screen.getByRole("row", { name: /English/ })).toHaveTextContent("the sources");
    expect(screen.getByRole("row", { name: /Finnish/ })).toHaveTextContent("stayed out");
  });
});
