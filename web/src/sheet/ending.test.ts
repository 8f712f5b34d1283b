import { describe, expect, it } from "vitest";
import { MAIN, type Forms } from "../text/shapes";
import { endingOf, goesOn, takenAway, type Edited, type EditEnd } from "./ending";
import type { CellView } from "./rowStore";

const ME = 5;
const OTHER = 6;

function aCell(part: Partial<CellView> = {}): CellView {
  return { language: "de", state: "pencilled", settled: false, version: 3, basedOn: 1, offers: [], ...part };
}

function anOffer(authorId: number): CellView {
  const offer = { id: 9, author: "Lina", authorId, at: "2026-11-01T10:00:00Z", basedOn: 1, text: "Rampe", note: "" };
  return aCell({ state: "offered", offers: [offer] });
}

function of(text: string): Forms {
  return text === "" ? {} : { [MAIN]: text };
}

function ending(before: string, now: string, how: EditEnd, part: Partial<Edited> = {}) {
  const edited: Edited = {
    initial: of(before),
    amends: null,
    plain: true,
    cell: before === "" ? undefined : aCell({ text: before }),
    pending: undefined,
    ...part,
  };
  return endingOf(edited, of(now), how, ME);
}

describe("what becomes of a text when its editor is left", () => {
  it.each<[string, string, string, EditEnd, Partial<Edited>, unknown]>([
    ["is pencilled", "", "Rampe", "blur", {}, { do: "send", change: { action: "PENCIL", text: "Rampe" } }],
    ["goes on by Tab", "", "Rampe", "next", {}, { do: "send", change: { action: "PENCIL", text: "Rampe" } }],
    [
      "is put forward",
      "",
      "Rampe",
      "put-forward",
      {},
      { do: "send", change: { action: "PUT_FORWARD", text: "Rampe" } },
    ],
    ["says the same again", "Rampe", "Rampe", "blur", {}, { do: "leave" }],
    [
      "says what is in force, over an offer",
      "Steg",
      "Rampe",
      "blur",
      { cell: aCell({ text: "Rampe", settled: true, state: "offered" }) },
      { do: "leave" },
    ],
    [
      "is put forward although it says the same",
      "Rampe",
      "Rampe",
      "put-forward",
      {},
      { do: "send", change: { action: "PUT_FORWARD", text: "Rampe" } },
    ],
    [
      "stays beside a settled one",
      "Rampe",
      "Steg",
      "leave",
      { cell: aCell({ text: "Rampe", settled: true, state: "settled" }) },
      { do: "keep", why: "cell.notPutForward" },
    ],
    [
      "amends an offer",
      "Rampe",
      "Steg",
      "put-forward",
      { amends: 9 },
      { do: "send", change: { action: "AMEND", offer: 9, text: "Steg" } },
    ],
    ["was never there", "", "", "blur", {}, { do: "leave" }],
    ["is emptied", "Rampe", "", "blur", {}, { do: "send", change: { action: "CLEAR" } }],
    [
      "is settled, and emptied in passing",
      "Rampe",
      "",
      "blur",
      { cell: aCell({ text: "Rampe", settled: true, state: "settled" }) },
      { do: "leave", say: "cell.emptyStays" },
    ],
    [
      "is settled, and emptied with Enter",
      "Rampe",
      "",
      "put-forward",
      { cell: aCell({ text: "Rampe", settled: true, state: "settled" }) },
      { do: "send", change: { action: "CLEAR" } },
    ],
    [
      "is one's own offer, emptied",
      "Rampe",
      "",
      "blur",
      { cell: anOffer(ME) },
      { do: "send", change: { action: "WITHDRAW", offer: 9 } },
    ],
    [
      "is another's offer, emptied",
      "Rampe",
      "",
      "blur",
      { cell: anOffer(OTHER) },
      { do: "leave", say: "cell.emptyStays" },
    ],
    [
      "is an offer that is amended to nothing",
      "Rampe",
      "",
      "blur",
      { cell: anOffer(ME), amends: 9 },
      { do: "leave", say: "cell.emptyStays" },
    ],
    [
      "waits here after it failed, and is emptied",
      "Rampe",
      "",
      "blur",
      { pending: { forms: of("Rampe"), status: "failed" } },
      { do: "drop" },
    ],
    [
      "is on its way, and is emptied",
      "Rampe",
      "",
      "blur",
      { pending: { forms: of("Rampe"), status: "saving" } },
      { do: "send", change: { action: "CLEAR" } },
    ],
  ])("%s", (_what, before, now, how, part, expected) => {
    expect(ending(before, now, how, part)).toEqual(expected);
  });

  it("has all its forms where it has several", () => {
    const edited = { initial: {}, amends: null, plain: false, cell: undefined, pending: undefined };
    expect(endingOf(edited, { one: "ein Tau", other: "Taue" }, "blur", ME)).toEqual({
      do: "send",
      change: { action: "PENCIL", forms: { one: "ein Tau", other: "Taue" } },
    });
  });
});

it("takes away nothing where nothing is", () => {
  expect(takenAway(undefined, true, ME)).toBeNull();
  expect(takenAway(aCell(), true, ME)).toBeNull();
});

it.each<[EditEnd, unknown]>([
  ["put-forward", { do: "move", rows: 1, columns: 0 }],
  ["next", { do: "step", columns: 1 }],
  ["previous", { do: "step", columns: -1 }],
  ["leave", null],
  ["blur", null],
])("goes on after %s", (how, command) => {
  expect(goesOn(how)).toEqual(command);
});
