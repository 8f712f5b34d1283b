import { cleanup, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { beforeEach, describe, expect, it, vi } from "vitest";
import { aLanguage, aPerson, aRow, show } from "../../test/builders";
import { outbox } from "../../sheet/outbox/outbox";
import { Footnotes } from "./Footnotes";
import { RowStore, type CellView, type Row } from "../../sheet/rowStore";

const offer = {
  id: 31,
  text: "Klappe",
  author: "Hanne Brook",
  authorId: 9,
  at: new Date().toISOString(),
  basedOn: 1,
  note: "",
};
const settled: CellView = {
  language: "de",
  state: "settled",
  text: "Rampe",
  settled: true,
  version: 3,
  basedOn: 1,
  offers: [],
};

const rowWith = (cell: CellView): Row =>
  aRow({
    id: 1,
    source: "Ramp",
    note: "Cars drive over it",
    reference: "ramp.scr:41",
    section: "Bow",
    maxLength: 12,
    sourceRevision: 2,
    meaningRevision: 2,
    cells: [cell],
  });

const story = [
  {
    id: 2,
    at: new Date().toISOString(),
    person: "Oskar Veldre",
    what: "settled",
    origin: "typed",
    before: "Klappe",
    after: "Rampe",
    canBePutBack: true,
  },
  {
    id: 1,
    at: new Date().toISOString(),
    person: "Mirja Tallo",
    what: "settled",
    origin: "file",
    after: "Klappe",
    file: "ramp.csv",
    canBePutBack: true,
  },
];

const hit = {
  percent: 86,
  entry: 12,
  key: "door.up",
  table: "Deckside",
  source: "Door up",
  text: "Tor auf",
  adapted: [{ from: "5", to: "7" }],
};
const checked = {
  findings: [{ code: "too-long", severity: "blocker", form: "other", sentence: "Too long by one.", start: 0, end: 1 }],
  terms: [{ term: "ramp", note: "the moving one", text: "Rampe", avoid: ["Auffahrt"] }],
  message: [],
};
const question = { id: 4, text: "Which ramp?", askedAt: new Date().toISOString(), asker: "Lina Korhola" };

function answerTo(path: string, cell: CellView): unknown {
  if (path.includes("/story")) return story;
  if (path.endsWith("/memory")) return [hit];
  if (path.endsWith("/check")) return checked;
  if (path.includes("/questions")) return [question];
  return [rowWith(cell)];
}

async function open(cell: CellView, me = aPerson()) {
  vi.spyOn(globalThis, "fetch").mockImplementation((input) =>
    Promise.resolve(Response.json(answerTo(String(input), cell))),
  );
  const store = new RowStore(["de"], vi.fn());
  store.ensure(Float64Array.of(1), 0, 1);
  await store.loaded(1);
  const change = vi.fn().mockResolvedValue(null);
  const onAmend = vi.fn();
  const onTake = vi.fn();
  show(
    <Footnotes
      store={store}
      entry={1}
      language={aLanguage("de", "German")}
      me={me}
      changes={{ change, many: vi.fn() }}
      draft={null}
      onTake={onTake}
      onSay={vi.fn()}
      onEntries={vi.fn()}
      onAmend={onAmend}
      onClose={vi.fn()}
    />,
  );
  return { change, onAmend, onTake, store };
}

describe("the footnotes", () => {
  beforeEach(() => vi.restoreAllMocks());

  it("say what the entry is", async () => {
    await open(settled);
    for (const words of ["ramp.up", "Cars drive over it", /At most 12 characters/, "ramp.scr:41"]) {
      expect(screen.getByText(words)).toBeInTheDocument();
    }
  });

  it("let a reviewer settle, amend or return an offer", async () => {
    const reviewer = aPerson({ levels: { de: "reviewer" } });
    const { change, onAmend } = await open({ ...settled, state: "offered", offers: [offer] }, reviewer);
    await userEvent.click(screen.getByRole("button", { name: "Settle" }));
    expect(change).toHaveBeenLastCalledWith(1, "de", { action: "SETTLE", offer: 31, meaningConfirmed: true });
    await userEvent.click(screen.getByRole("button", { name: "Amend" }));
    expect(onAmend).toHaveBeenCalledWith(31, { other: "Klappe" });
    await userEvent.click(screen.getByRole("button", { name: "Return" }));
    expect(screen.getByRole("button", { name: "Return" })).toBeDisabled();
    await userEvent.type(screen.getByRole("textbox", { name: "Reason" }), "Say Rampe.{Enter}");
    expect(change).toHaveBeenLastCalledWith(1, "de", { action: "RETURN", offer: 31, reason: "Say Rampe." });
  });

  it("let nobody settle their own offer, and its author take it back", async () => {
    const author = aPerson({ id: 9, levels: { de: "reviewer" } });
    const { change } = await open({ ...settled, state: "offered", offers: [offer] }, author);
    expect(screen.queryByRole("button", { name: "Settle" })).not.toBeInTheDocument();
    expect(screen.getByText(/Offered by you/)).toBeInTheDocument();
    await userEvent.click(screen.getByRole("button", { name: "Withdraw" }));
    expect(change).toHaveBeenCalledWith(1, "de", { action: "WITHDRAW", offer: 31 });
  });

  it("give a contributor no answers to another's offer", async () => {
    await open({ ...settled, state: "offered", offers: [offer] });
    for (const name of ["Settle", "Amend", "Return", "Withdraw"]) {
      expect(screen.queryByRole("button", { name })).not.toBeInTheDocument();
    }
  });

  it("put a line of the story back, but not the one that holds now", async () => {
    const { change } = await open(settled);
    const back = await screen.findAllByRole("button", { name: "put back" });
    expect(back).toHaveLength(1);
    await userEvent.click(back[0] as HTMLElement);
    expect(change).toHaveBeenCalledWith(1, "de", { action: "PUT_BACK", line: 1 });
  });

  it("give settled texts of similar sources to be taken", async () => {
    const { onTake } = await open(settled);
    expect(await screen.findByText("86")).toBeInTheDocument();
    expect(screen.getByText("adapted: 7 for 5")).toBeInTheDocument();
    await userEvent.click(screen.getByRole("button", { name: "Take a: Tor auf" }));
    expect(onTake).toHaveBeenCalledWith({ other: "Tor auf" });
  });

  it("say what is wrong with the text, and what the wordbook says", async () => {
    await open(settled);
    expect(await screen.findByText("Too long by one.")).toHaveClass("wrong");
    expect(screen.getByText("ramp").parentElement).toHaveTextContent("ramp → Rampe");
    expect(screen.getByText(/not “Auffahrt”/)).toBeInTheDocument();
  });

  it("let a coordinator answer a question, and a contributor only ask", async () => {
    await open(settled);
    expect(await screen.findByText(/Which ramp\?/)).toBeInTheDocument();
    expect(screen.queryByRole("button", { name: "Answer …" })).not.toBeInTheDocument();
    cleanup();
    await open(settled, aPerson({ coordinator: true }));
    await userEvent.click(await screen.findByRole("button", { name: "Answer …" }));
    await userEvent.type(screen.getByRole("textbox", { name: "Answer" }), "The bow one.{Enter}");
    const put = vi.mocked(fetch).mock.calls.find(([, init]) => init?.method === "PUT");
    expect(put?.[0]).toBe("/api/questions/4/answer");
    expect(put?.[1]?.body).toBe('{"text":"The bow one."}');
  });

  it("show both texts of a conflict and let the person choose", async () => {
    const { change, store } = await open(settled);
    const stop = store.follow();
    outbox.keeps(1, "de", null, { other: "Mein Text" }, "Someone changed this text meanwhile.");
    expect(await screen.findByText("Mein Text")).toBeInTheDocument();
    await userEvent.click(screen.getByRole("button", { name: "Put mine forward" }));
    expect(change).toHaveBeenCalledWith(1, "de", { action: "PUT_FORWARD", text: "Mein Text" });
    await userEvent.click(screen.getByRole("button", { name: "Drop mine" }));
    expect(screen.queryByText("Mein Text")).not.toBeInTheDocument();
    expect(outbox.unsaved()).toEqual([]);
    stop();
  });
});
