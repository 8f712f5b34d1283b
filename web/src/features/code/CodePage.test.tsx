import { screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { Route, Routes } from "react-router";
import { describe, expect, it } from "vitest";
import { aPerson, show } from "../../test/builders";
import { changes, refusal, serve } from "../../test/server";
import { CodePage } from "./CodePage";

const scan = (part: object) => ({
  id: 5,
  name: "site.zip",
  person: "Mirja",
  begunAt: "2026-11-01T10:00:00Z",
  doneAt: "2026-11-01T10:00:05Z",
  status: "done",
  done: 0,
  total: 0,
  message: "",
  files: 12,
  lines: 3456,
  ignored: 3,
  binary: 1,
  large: 0,
  compared: true,
  keysNew: 2,
  keysGone: 1,
  textsNew: 4,
  textsGone: 0,
  textsMoved: 6,
  ...part,
});
const figures = {
  used: 7,
  maybe: 2,
  tests: 1,
  unused: 9,
  missing: 2,
  differing: 1,
  misfits: 1,
  open: 3,
  later: 0,
  ignored: 0,
  taken: 0,
};
const product = {
  id: 1,
  slug: "site",
  name: "Booking site",
  kind: "site",
  tables: [
    { slug: "booking", name: "Booking" },
    { slug: "common", name: "Common" },
  ],
  languages: [],
  version: 1,
  hosts: {},
};
const missing = [
  {
    key: "menu.end",
    context: "",
    folded: false,
    proposed: "menu.end",
    places: 3,
    path: "src/a.ts",
    line: 4,
    around: "t('menu.end')",
    said: "The end",
    note: "last",
    fresh: true,
  },
  {
    key: "menu.start",
    context: "stage",
    folded: false,
    proposed: "menu.start",
    places: 1,
    path: "src/b.ts",
    line: 8,
    around: "t('menu.start')",
    note: "",
    fresh: false,
  },
];
const text = (position: number, part: object) => ({
  position,
  path: "src/c.ts",
  line: position,
  around: "alert('x')",
  text: `Text ${position}`,
  kind: "literal",
  likelihood: 90,
  composed: false,
  patched: true,
  fresh: false,
  proposed: `c.text-${position}`,
  known: false,
  decision: "open",
  ...part,
});

function open(at: string, answers: Record<string, unknown>, coordinator = true) {
  const asked = serve({
    "GET /api/products": [product],
    "GET /api/products/site/code": { last: scan({}), ...figures },
    "GET /api/products/site/code/missing": missing,
    ...answers,
  });
  show(
    <Routes>
      <Route path="/products/:slug/code" element={<CodePage me={aPerson({ coordinator })} />} />
    </Routes>,
    at,
  );
  return asked;
}

describe("the code of a product", () => {
  it("says what was looked through, what was left out, and what changed", async () => {
    open("/products/site/code", {});
    expect(await screen.findByText(/looked through site\.zip/)).toHaveTextContent(
      /12 files, 3,456 lines\. Left out: 3 files by the tree’s own rules, 1 that is no text\./,
    );
    expect(screen.getByText(/2 keys new, 1 gone; 4 texts without keys new, 0 gone, 6 in another file/)).toBeVisible();
    expect(screen.getByRole("button", { name: /Unused/ })).toHaveTextContent("9");
  });

  it("makes entries of chosen keys, with the code's text or the one that is typed", async () => {
    const asked = open("/products/site/code", {
      "POST /api/products/site/code/missing/take": { change: 41, made: 2, known: 0 },
      "POST /api/changes/41/undo": {},
    });
    const user = userEvent.setup();
    await user.click(await screen.findByRole("checkbox", { name: "All that are shown" }));
    const typed = screen.getByRole("textbox", { name: "Source of menu.start · stage" });
    expect(typed).toHaveValue("Start");
    await user.clear(typed);
    await user.type(typed, "Begin here");
    await user.click(screen.getByRole("button", { name: "Make 2 entries" }));
    await user.click(screen.getByRole("button", { name: /Texts without keys/ }));
    expect(await screen.findByRole("button", { name: "Undo" })).toBeVisible();
    expect(changes(asked)[0]?.json).toEqual({
      scan: 5,
      table: "booking",
      section: "",
      keys: [
        { name: "menu.end", context: "", key: "menu.end", source: "The end" },
        { name: "menu.start", context: "stage", key: "menu.start", source: "Begin here" },
      ],
    });
    await user.click(await screen.findByRole("button", { name: "Undo" }));
    await waitFor(() => expect(changes(asked)[1]?.path).toBe("/api/changes/41/undo"));
  });

  it("sends once what is pressed twice, and says what the server refuses", async () => {
    let answer: (reply: Response) => void = () => undefined;
    const asked = open("/products/site/code", {
      "POST /api/products/site/code/missing/take": () => new Promise<Response>((done) => (answer = done)),
    });
    const user = userEvent.setup();
    await user.click(await screen.findByRole("checkbox", { name: "menu.end" }));
    const make = screen.getByRole("button", { name: "Make 1 entry" });
    await user.dblClick(make);
    expect(changes(asked)).toHaveLength(1);
    answer(refusal(409, "looked-again", "The code was looked through again meanwhile; look at the list again."));
    expect(await screen.findByRole("alert")).toHaveTextContent("looked through again meanwhile");
  });

  it("takes texts with their keys, puts off and ignores", async () => {
    const asked = open("/products/site/code?view=texts", {
      "GET /api/products/site/code/texts": [
        text(1, {}),
        text(2, { composed: true, patched: false }),
        text(3, { known: true, proposed: "deck.sun" }),
      ],
      "POST /api/products/site/code/texts/take": { change: 7, made: 1, known: 1 },
      "POST /api/products/site/code/texts/decision": { texts: 1 },
    });
    const user = userEvent.setup();
    const key = await screen.findByRole("textbox", { name: "Key of Text 1" });
    expect(screen.getByText(/put together in the code/)).toBeVisible();
    expect(screen.queryByRole("textbox", { name: "Key of Text 3" })).toBeNull();
    await user.clear(key);
    await user.type(key, "own.key");
    await user.click(screen.getByRole("checkbox", { name: "Text 1" }));
    await user.click(screen.getByRole("checkbox", { name: "Text 3" }));
    await user.click(screen.getByRole("button", { name: "Take 2" }));
    expect(changes(asked)[0]?.json).toMatchObject({
      texts: [
        { position: 1, key: "own.key" },
        { position: 3, key: "deck.sun" },
      ],
    });
    await user.click(await screen.findByRole("checkbox", { name: "Text 2" }));
    await user.click(screen.getByRole("button", { name: "Ignore for good" }));
    await waitFor(() => expect(changes(asked)[1]?.json).toEqual({ scan: 5, decision: "ignored", texts: [2] }));
    await user.click(await screen.findByRole("button", { name: "Undo" }));
    await waitFor(() => expect(changes(asked)[2]?.json).toEqual({ scan: 5, decision: "open", texts: [2] }));
  });

  it("opens again what was taken by mistake", async () => {
    const asked = open("/products/site/code?view=texts&decision=taken", {
      "GET /api/products/site/code/texts": [text(4, { decision: "taken", entry: 31, key: "deck.sun", known: true })],
      "POST /api/products/site/code/texts/decision": { texts: 1 },
    });
    const user = userEvent.setup();
    await user.click(await screen.findByRole("checkbox", { name: "Text 4" }));
    expect(screen.getByRole("link", { name: "deck.sun" })).toBeVisible();
    expect(screen.queryByRole("button", { name: /^Take/ })).toBeNull();
    expect(screen.queryByRole("button", { name: "Put off" })).toBeNull();
    await user.click(screen.getByRole("button", { name: "Open again" }));
    await waitFor(() => expect(changes(asked)[0]?.json).toEqual({ scan: 5, decision: "open", texts: [4] }));
  });

  it("goes on with another look when that is the last now", async () => {
    let last = 5;
    open("/products/site/code?view=texts", {
      "GET /api/products/site/code": () => ({ last: scan({ id: last }), ...figures }),
      "GET /api/products/site/code/texts": (path: string) => {
        if (path.includes("scan=6")) return [text(1, { text: "Of the new look" })];
        last = 6;
        return refusal(409, "looked-again", "The code was looked through again meanwhile; look at the list again.");
      },
    });
    expect(await screen.findByText("Of the new look")).toBeVisible();
  });

  it("only shows to who may not change anything", async () => {
    open("/products/site/code", {}, false);
    expect(await screen.findByText("menu.end")).toBeVisible();
    expect(screen.queryByRole("checkbox")).toBeNull();
    expect(screen.queryByRole("button", { name: /ZIP/ })).toBeNull();
  });

  it("says what to do before the first look, and how far the first is", async () => {
    open("/products/site/code", {
      "GET /api/products/site/code": {
        going: scan({ doneAt: undefined, status: "going", done: 30, total: 120, compared: false }),
        ...figures,
      },
      "GET /api/products/site/code/scans/5": scan({ doneAt: undefined, status: "going", done: 60, total: 120 }),
    });
    expect(await screen.findByText("The code of this product was not looked through yet.")).toBeVisible();
    expect(await screen.findByText("Looking through site.zip: 60 of 120")).toBeVisible();
    expect(screen.getByRole("progressbar")).toHaveAttribute("aria-valuenow", "50");
    expect(screen.getByRole("button", { name: /ZIP/ })).toBeDisabled();
    expect(screen.queryByRole("table")).toBeNull();
  });

  it("shows what was found as soon as a look is through", async () => {
    let through = false;
    const asked = open("/products/site/code", {
      "GET /api/products/site/code": () =>
        through
          ? { last: scan({}), ...figures }
          : { going: scan({ doneAt: undefined, status: "queued", compared: false }), ...figures },
      "GET /api/products/site/code/scans/5": () => {
        through = true;
        return scan({});
      },
    });
    expect(await screen.findByText("menu.end", {}, { timeout: 5000 })).toBeVisible();
    expect(asked.filter((one) => one.path === "/api/products/site/code")).toHaveLength(2);
  });

  it("says why a look failed and keeps what was found before", async () => {
    open("/products/site/code", {
      "GET /api/products/site/code": {
        last: scan({}),
        going: scan({
          id: 6,
          name: "bad.zip",
          doneAt: undefined,
          status: "failed",
          message: "The archive is cut off.",
        }),
        ...figures,
      },
    });
    expect(await screen.findByRole("alert")).toHaveTextContent(
      "bad.zip was not looked through: The archive is cut off.",
    );
    expect(await screen.findByText("menu.end")).toBeVisible();
  });

  it("changes how keys are named, counting places from 1", async () => {
    const asked = open("/products/site/code?view=settings", {
      "GET /api/products/site/code/settings": {
        version: 2,
        habits: [{ kind: "call", names: ["t"], key: 0, text: -1, context: -1, values: 1 }],
        rewrites: [{ files: "*.ts", kind: "literal", code: "t('{key}')", needs: "" }],
      },
      "PUT /api/products/site/code/settings": {
        version: 3,
        habits: [{ kind: "call", names: ["t", "say"], key: 0, text: 1, context: -1, values: 1 }],
        rewrites: [],
      },
    });
    const user = userEvent.setup();
    const habit = within(await screen.findByRole("group", { name: "Function" }));
    expect(habit.getByRole("textbox", { name: "Key" })).toHaveValue("1");
    expect(habit.getByRole("textbox", { name: "Text" })).toHaveValue("");
    await user.type(habit.getByRole("textbox", { name: "Text" }), "2");
    await user.click(screen.getByRole("button", { name: "Save" }));
    await waitFor(() =>
      expect(changes(asked)[0]?.json).toMatchObject({
        version: 2,
        habits: [{ kind: "call", names: ["t"], key: 0, text: 1, context: -1, values: 1 }],
      }),
    );
    expect(await screen.findByText("Saved. It counts from the next look on.")).toBeVisible();
  });
});
