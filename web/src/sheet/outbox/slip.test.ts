import { describe, expect, it } from "vitest";
import * as slips from "./slip";
import type { CellView, Slip, Wanted } from "./slip";

function cell(version: number, text: string): CellView {
  return { language: "de", state: "pencilled", text, settled: false, version, basedOn: 1, offers: [] };
}
let ids = 0;
function pencil(text: string, seen: slips.Seen): Wanted {
  return { id: `w${++ids}`, change: { action: "PENCIL", text }, seen };
}
const firstOf = (slip: Slip) => slip.chain[0] as Wanted;
const seenOf = (slip: Slip) => slip.open?.seen as slips.Seen;
const SEEN = { version: 3, after: null };

describe("a slip", () => {
  it("sends a second text upon what the first one makes", () => {
    let slip = slips.sent(slips.wants(slips.EMPTY, pencil("a", SEEN)));
    slip = slips.opened(slip, "e", slips.seenNow(slip, 3));
    expect(slips.versionOf(slip, seenOf(slip))).toBeUndefined();
    slip = slips.answered(slip, 4);
    expect(slips.versionOf(slip, seenOf(slip))).toBe(4);
    slip = slips.wants(slips.left(slip, "e"), pencil("b", seenOf(slip)));
    expect(slips.versionOf(slip, firstOf(slip).seen)).toBe(4);
  });

  it("lets a text overtake one that waits, and knows it again if it had arrived", () => {
    let slip = slips.unanswered(slips.sent(slips.wants(slips.EMPTY, pencil("a", SEEN))), "no line");
    slip = slips.wants(slip, pencil("b", slips.seenNow(slip, 3)));
    expect(slip.chain.map((one) => one.change.text)).toEqual(["b"]);
    expect(slips.versionOf(slip, firstOf(slip).seen)).toBe(3);
    slip = slips.conflicted(slips.sent(slip), cell(4, "a"), "changed");
    expect(slip).toMatchObject({ head: "ready", kept: null });
    expect(slips.versionOf(slip, firstOf(slip).seen)).toBe(4);
    expect(slips.conflicted(slips.sent(slip), cell(5, "c"), "changed").kept?.forms).toEqual({ other: "b" });
  });

  it("never overtakes one that is on its way, an answer, or somebody's offer", () => {
    let slip = slips.sent(slips.wants(slips.EMPTY, pencil("a", SEEN)));
    slip = slips.wants(slip, pencil("b", slips.seenNow(slip, 3)));
    slip = slips.wants(slip, pencil("c", slips.seenNow(slip, 3)));
    expect(slip.chain.map((one) => one.change.text)).toEqual(["a", "c"]);
    slip = slips.wants(slip, {
      id: "x",
      change: { action: "AMEND", offer: 9, text: "d" },
      seen: slips.seenNow(slip, 3),
    });
    slip = slips.wants(slip, { id: "y", change: { action: "CLEAR" }, seen: slips.seenNow(slip, 3) });
    slip = slips.wants(slip, pencil("e", slips.seenNow(slip, 3)));
    expect(slip.chain.map((one) => one.change.action)).toEqual(["PENCIL", "PENCIL", "AMEND", "CLEAR", "PENCIL"]);
    const amend = (offer: number, text: string): Wanted => {
      return { id: `a${++ids}`, change: { action: "AMEND", offer, text }, seen: SEEN };
    };
    const twice = slips.wants(slips.wants(slips.EMPTY, amend(9, "a")), amend(9, "b"));
    expect(twice.chain.map((one) => one.change.text)).toEqual(["b"]);
    expect(slips.wants(twice, amend(8, "c")).chain).toHaveLength(2);
  });

  it("keeps what is refused, and goes on with what comes after it as the cell was", () => {
    let slip = slips.wants(slips.EMPTY, { id: "x", change: { action: "PUT_FORWARD", text: "a" }, seen: SEEN });
    slip = slips.sent(slip);
    slip = slips.wants(slip, { id: "y", change: { action: "CLEAR" }, seen: slips.seenNow(slip, 3) });
    slip = slips.refused(slip, "too long");
    expect(slip.kept).toEqual({ forms: { other: "a" }, why: "too long" });
    expect(slips.versionOf(slip, firstOf(slip).seen)).toBe(3);
    expect(slips.wants(slip, pencil("b", SEEN)).kept).toBeNull();
    expect(slips.dropped(slip).kept).toBeNull();
  });

  it("stops at a conflict and keeps the last text with the other's", () => {
    let slip = slips.sent(slips.wants(slips.EMPTY, pencil("a", SEEN)));
    slip = slips.opened(slip, "e", slips.seenNow(slip, 3));
    slip = slips.wants(slip, pencil("b", slips.seenNow(slip, 3)));
    slip = slips.conflicted(slip, cell(7, "theirs"), "changed");
    expect(slip.chain).toEqual([]);
    expect(slip.kept).toMatchObject({ forms: { other: "b" }, theirs: { text: "theirs" } });
    expect(slips.versionOf(slip, seenOf(slip))).toBe(3);
  });

  it("takes its own text for no conflict when it was sent twice", () => {
    const slip = slips.sent(slips.wants(slips.EMPTY, pencil("a", SEEN)));
    const done = slips.conflicted(slip, cell(4, "a"), "changed");
    expect(slips.isDone(done)).toBe(true);
  });

  it("listens to no editor but the open one", () => {
    const slip = slips.typed(slips.opened(slips.EMPTY, "new", SEEN), "old", { other: "x" });
    expect(slip.open?.forms).toBeNull();
    expect(slips.left(slip, "old").open).not.toBeNull();
    expect(slips.isDone(slips.left(slip, "new"))).toBe(true);
  });
});

/** A small generator, so that a failure can be played again. */
function random(seed: number): (below: number) => number {
  let state = seed * 2654435761 + 1;
  return (below) => {
    state = (state * 1103515245 + 12345) & 0x7fffffff;
    return Math.floor((state / 0x80000000) * below);
  };
}

/** A server with one cell, which somebody else writes too. */
class Cell {
  version = 1;
  text = "";
  readonly history: { text: string; by: string; over: string }[] = [];

  write(by: string, text: string, version: number): boolean {
    if (version !== this.version) return false;
    this.history.push({ text, by, over: this.text });
    this.text = text;
    this.version++;
    return true;
  }
}

/** What a tab knows and shows. */
interface Tab {
  slip: Slip;
  /** The cell as this tab saw it last. */
  known: { version: number; text: string };
  flights: { version: number; text: string; arrived: boolean; done: boolean }[];
  last: string;
  /** The texts that were in sight when an editor opened. */
  saw: Set<string>;
}

describe("slips of two tabs, one cell and any order of replies", () => {
  it.each(Array.from({ length: 300 }, (_, seed) => seed))("lose no text and replace none unseen (%i)", (seed) => {
    const pick = random(seed);
    const server = new Cell();
    const tab = (): Tab => ({
      slip: slips.EMPTY,
      known: { version: 1, text: "" },
      flights: [],
      last: "",
      saw: new Set([""]),
    });
    const [one, two] = [tab(), tab()];
    let typed = 0;
    const texts = (slip: Slip) =>
      [slip.kept?.forms.other, slip.open?.forms?.other, ...slip.chain.map((one) => one.change.text)].filter(Boolean);
    const step = (mine: Tab, name: string, what: number) => {
      const [first] = mine.slip.chain;
      if (what === 0 && !mine.slip.open) {
        mine.saw.add(mine.known.text);
        mine.slip = slips.opened(mine.slip, `${name}${++ids}`, slips.seenNow(mine.slip, mine.known.version));
      } else if (what === 1 && mine.slip.open) {
        mine.last = `${name}-${++typed}`;
        mine.slip = slips.typed(mine.slip, mine.slip.open.id, { other: mine.last });
      } else if (what === 2 && mine.slip.open) {
        const { id, forms, seen } = mine.slip.open;
        mine.slip = slips.left(mine.slip, id);
        if (forms) mine.slip = slips.wants(mine.slip, pencil(forms.other ?? "", seen));
      } else if (what === 3 && first && mine.slip.head !== "sending") {
        const version = slips.versionOf(mine.slip, first.seen);
        expect(version).toBeDefined();
        mine.slip = slips.sent(mine.slip);
        mine.flights.push({ version: version ?? -1, text: first.change.text ?? "", arrived: false, done: false });
      } else if (what === 4) {
        // A request arrives, perhaps a second time.
        const flight = mine.flights[pick(mine.flights.length || 1)];
        if (flight) flight.arrived = server.write(name, flight.text, flight.version) || flight.arrived;
      } else if (what === 5 && mine.slip.head === "sending") {
        const flight = mine.flights.at(-1) as Tab["flights"][number];
        // The reply to the first arrival; a request that has not arrived is answered when it does.
        const wrote = flight.arrived || server.write(name, flight.text, flight.version);
        flight.arrived ||= wrote;
        if (wrote && server.version === flight.version + 1) {
          mine.known = { version: server.version, text: server.text };
          mine.slip = slips.answered(mine.slip, server.version);
        } else if (!wrote || pick(2) === 0) {
          mine.known = { version: server.version, text: server.text };
          mine.slip = slips.conflicted(mine.slip, cell(server.version, server.text), "changed");
        } else {
          mine.slip = slips.answered(mine.slip, flight.version + 1);
        }
      } else if (what === 6 && mine.slip.head === "sending") {
        mine.slip = slips.unanswered(mine.slip, "no line");
      } else if (what === 7 && mine.slip.chain.length === 0) {
        mine.known = { version: server.version, text: server.text };
      } else if (what === 8) {
        server.write("other", `other-${++typed}`, server.version);
      }
      expect(mine.slip.chain.length).toBeLessThanOrEqual(2);
      // What it replaced was its own, or had been in sight.
      const wrote = server.history.filter(({ by }) => by === name).at(-1);
      expect(!wrote || wrote.over.startsWith(`${name}-`) || mine.saw.has(wrote.over)).toBe(true);
      // The last text that was typed is typed still, on its way, kept, or was with the server.
      const safe = texts(mine.slip).includes(mine.last) || server.history.some(({ text }) => text === mine.last);
      expect(mine.last === "" || safe).toBe(true);
    };
    for (let round = 0; round < 120; round++) {
      const at = pick(2);
      step(at === 0 ? one : two, at === 0 ? "a" : "b", pick(9));
    }
    // Everything comes to rest: what is left is kept in sight, and nothing goes on for ever.
    [one, two].forEach((mine, at) => {
      for (let round = 0; round < 40 && mine.slip.chain.length > 0; round++) {
        step(mine, at === 0 ? "a" : "b", mine.slip.head === "sending" ? 5 : 3);
      }
      expect(mine.slip.chain).toEqual([]);
    });
  });
});
