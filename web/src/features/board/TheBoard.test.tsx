import { screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it } from "vitest";
import { useLocation } from "react-router";
import { aLanguage, aPerson, aTable, show } from "../../test/builders";
import { TheBoard } from "./TheBoard";

const states = { offered: 2, returned: 0, stale: 1, settled: 5, pencilled: 0, untranslated: 2 };
const german = aLanguage("de", "German", { states, words: { ...states, untranslated: 20 } });
const tables = [
  aTable({ languages: [german, aLanguage("fi", "Finnish")] }),
  aTable({ id: 2, slug: "deckside", name: "Deckside", languages: [german] }),
];

function Where() {
  const { pathname, search } = useLocation();
  return <output>{pathname + search}</output>;
}

function board(unit: "entries" | "words" = "entries") {
  show(
    <>
      <TheBoard
        me={aPerson({ coordinator: true })}
        tables={tables}
        languages={[german, aLanguage("fi", "Finnish")]}
        products={[]}
        unit={unit}
      />
      <Where />
    </>,
  );
}

describe("the board", () => {
  it("says in words what a crossing's bar shows", () => {
    board();
    expect(
      screen.getByRole("gridcell", {
        name: "Ramp panel, German: 5 left to settle; 5 settled, 1 stale, 2 offered, 2 untranslated",
      }),
    ).toHaveTextContent("52 offers");
    expect(screen.getByRole("gridcell", { name: /^Ramp panel, Finnish/ })).toHaveTextContent("done");
  });

  it("counts words when asked to", () => {
    board("words");
    expect(screen.getByRole("gridcell", { name: /^Deckside, German: 23 left/ })).toBeInTheDocument();
  });

  it("is one tab stop, moved through by arrows, and Enter opens the ledger there", async () => {
    board();
    screen.getByRole("gridcell", { name: /^Ramp panel, German/ }).focus();
    await userEvent.keyboard("{ArrowRight}{ArrowDown}");
    expect(screen.getByText("not kept")).toHaveFocus();
    await userEvent.keyboard("{ArrowLeft}");
    expect(screen.getAllByRole("gridcell").filter((cell) => cell.tabIndex === 0)).toHaveLength(1);
    await userEvent.keyboard("{Enter}");
    expect(screen.getByRole("status")).toHaveTextContent("/ledger?table=deckside&in=de");
  });
});
