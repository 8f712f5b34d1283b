import { screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { Route, Routes } from "react-router";
import { beforeEach, describe, expect, it, vi } from "vitest";
import type { Schemas } from "../../api/client";
import { aPerson, show } from "../../test/builders";
import { refusal, serve, type Asked } from "../../test/server";
import { DeliveryPage } from "./DeliveryPage";
import { BEGINNINGS } from "./recipes";

const verdict = (language: string, some: Partial<Schemas["LanguageVerdict"]> = {}): Schemas["LanguageVerdict"] => ({
  language,
  answer: "yes",
  counts: { entries: 10, settled: 10, stale: 0, blocked: 0, unfit: 0, offers: 0 },
  reasons: [],
  start: false,
  ...some,
});

const delivery = (number: number, some: Partial<Schemas["DeliveryReply"]> = {}): Schemas["DeliveryReply"] => ({
  number,
  at: "2026-11-27T12:00:00Z",
  by: "Mirja Tallo",
  scheduled: false,
  contents: "9f3ce1aa00",
  files: 2,
  bytes: 900,
  changed: number,
  languages: [],
  outboxSaid: "",
  ...some,
});

const texts: Schemas["Recipe"] = {
  id: 5,
  name: "Panel texts",
  settings: { ...BEGINNINGS.texts, format: "csv", files: "one" },
  active: true,
  version: 2,
};

const desk = (some: Partial<Schemas["DeliveryOverview"]> = {}): Schemas["DeliveryDesk"] => ({
  outboxThere: false,
  product: {
    slug: "panel",
    name: "Panel",
    kind: "panel",
    nextNumber: 3,
    changed: 4,
    recipes: [texts],
    plan: {
      gates: { blockers: "hold", share: 0, below: "hold", stale: "go" },
      outbox: false,
      times: [],
      zone: "UTC",
      lastSaid: "",
      version: 0,
    },
    holes: [],
    languages: [
      verdict("fi", { start: true }),
      verdict("pl", {
        answer: "held",
        counts: { entries: 10, settled: 8, stale: 1, blocked: 2, unfit: 0, offers: 3 },
      }),
    ],
    last: delivery(2),
    telling: { hooks: 0, unheard: 0 },
    ...some,
  },
});

function open(answers: Parameters<typeof serve>[0] = {}, me = aPerson({ coordinator: true })): Asked[] {
  const asked = serve({
    "GET /api/products/panel/delivery": desk(),
    "GET /api/products/panel/deliveries": [
      delivery(2, { scheduled: true }),
      delivery(1, { recalled: "wrong start number" }),
    ],
    "GET /api/products": [],
    "POST /api/products/panel/deliveries": null,
    ...answers,
  });
  show(
    <Routes>
      <Route path="/deliveries/:slug" element={<DeliveryPage me={me} />} />
    </Routes>,
    "/deliveries/panel",
  );
  return asked;
}

describe("the deliveries of a product", () => {
  beforeEach(() => {
    vi.restoreAllMocks();
    localStorage.clear();
  });

  it("say of each language whether it may go out and lead to what keeps it", async () => {
    open();
    const row = (await screen.findByText("held back")).closest("tr") as HTMLElement;
    const links = within(row).getAllByRole("link");
    expect(links.map((one) => [one.textContent, one.getAttribute("href")])).toEqual([
      ["2 texts would break", "/ledger?product=panel&in=pl&check=blocker"],
      ["1 is stale", "/ledger?product=panel&in=pl&only=stale"],
      ["2 are missing", "/ledger?product=panel&in=pl&only=untranslated,pencilled,offered,returned"],
      ["3 offers wait", "/review?in=pl"],
    ]);
    expect(screen.getByText("4 changes since no. 2")).toBeInTheDocument();
    expect(await screen.findByText("recalled: wrong start number")).toBeInTheDocument();
    expect(screen.getByText("by itself")).toBeInTheDocument();
  });

  it("deliver by a button", async () => {
    const asked = open();
    await userEvent.dblClick(await screen.findByRole("button", { name: "Deliver no. 3" }));
    await waitFor(() => expect(screen.getByRole("button", { name: "Deliver no. 3" })).toBeEnabled());
    // Once, however quickly one presses.
    expect(asked.filter((one) => one.method === "POST")).toHaveLength(1);
  });

  it("say what the server says when it is being done already", async () => {
    open({ "POST /api/products/panel/deliveries": refusal(409, "already-going", "This is being done already.") });
    await userEvent.click(await screen.findByRole("button", { name: "Deliver no. 3" }));
    expect(await screen.findByText("This is being done already.")).toBeInTheDocument();
  });

  it("say why the last try failed", async () => {
    open({
      "GET /api/products/panel/delivery": desk({
        run: { status: "failed", done: 0, total: 0, message: "ramp.up in pl has letters that windows-1252 lacks: ę." },
      }),
    });
    expect(await screen.findByText("ramp.up in pl has letters that windows-1252 lacks: ę.")).toBeInTheDocument();
  });

  it("deliver nothing while an entry has no source, and lead to it", async () => {
    open({
      "GET /api/products/panel/delivery": desk({ holes: [{ table: "ramp", tableName: "Ramp", entries: 1 }] }),
    });
    expect(await screen.findByRole("link", { name: /Ramp: 1 entry has no source text/ })).toHaveAttribute(
      "href",
      "/ledger?table=ramp",
    );
    expect(screen.getByRole("button", { name: "Deliver no. 3" })).toBeDisabled();
  });

  it("show what the next one would change, at an address of its own", async () => {
    const asked = open({
      "GET /api/products/panel/deliveries/ahead": {
        same: 3,
        files: [{ path: "fi.csv", what: "changed" }],
        languages: { fi: 1 },
        texts: [
          {
            language: "fi",
            entry: 7,
            key: "ramp.up",
            context: "",
            before: { other: "Ylös" },
            after: { other: "Ylös nyt" },
          },
        ],
      },
    });
    await userEvent.click(await screen.findByRole("button", { name: "What would change" }));
    const section = within(await screen.findByRole("region", { name: "What no. 3 would change since no. 2" }));
    expect(await section.findByText("fi.csv")).toBeInTheDocument();
    expect(section.getByRole("link", { name: "ramp.up" })).toBeInTheDocument();
    expect(section.getByText("nyt", { exact: false })).toBeInTheDocument();
    expect(asked.filter((one) => one.path.endsWith("/ahead"))).toHaveLength(1);
  });

  it("recall only with a reason", async () => {
    const asked = open({ "POST /api/products/panel/deliveries/2/recall": desk() });
    await userEvent.click(await screen.findByRole("button", { name: "Recall" }));
    const dialog = within(await screen.findByRole("dialog"));
    await userEvent.click(dialog.getByRole("button", { name: "Recall" }));
    expect(await dialog.findByText("Say why it is recalled.")).toBeInTheDocument();
    await userEvent.type(dialog.getByLabelText("Why"), "wrong font");
    await userEvent.click(dialog.getByRole("button", { name: "Recall" }));
    await waitFor(() =>
      expect(asked.find((one) => one.path.endsWith("/recall"))?.json).toEqual({ reason: "wrong font" }),
    );
  });

  it("tell programs: an address, its secret once, what was not heard again, and no more", async () => {
    const call = { id: 31, event: "delivered", number: 2, heard: false, attempts: 8, said: "It answered with 500." };
    const hook = { id: 7, address: "https://build.example/texts", madeAt: "2026-11-27T12:00:00Z", calls: [call] };
    const told = { hosts: ["build.example"], hooks: [hook] };
    const asked = open({
      "GET /api/products/panel/delivery": desk({ telling: { hooks: 1, unheard: 1 } }),
      "GET /api/products/panel/webhooks": told,
      "POST /api/products/panel/webhooks": { id: 8, secret: "s3cr3t" },
      "POST /api/products/panel/webhooks/calls/31": told,
      "DELETE /api/products/panel/webhooks/7": told,
    });
    expect(await screen.findByText("1 did not hear of the last delivery yet")).toBeInTheDocument();
    await userEvent.click(screen.getByRole("button", { name: "1 program is told" }));
    const dialog = within(await screen.findByRole("dialog"));
    expect(await dialog.findByText(/No\. 2 delivered · It answered with 500\. It was given up\./)).toBeInTheDocument();
    await userEvent.click(dialog.getByRole("button", { name: "Tell it again" }));
    await userEvent.type(dialog.getByLabelText("Address"), "https://build.example/other");
    await userEvent.click(dialog.getByRole("button", { name: "Tell it from now on" }));
    expect(await dialog.findByText("s3cr3t")).toBeInTheDocument();
    await userEvent.keyboard("{Escape}");
    expect(dialog.getByText("s3cr3t")).toBeInTheDocument();
    await userEvent.click(dialog.getByRole("button", { name: "I have kept it" }));
    expect(dialog.queryByText("s3cr3t")).toBeNull();
    await userEvent.click(dialog.getByRole("button", { name: "Tell it no more" }));
    await waitFor(() =>
      expect(asked.filter((one) => one.method !== "GET").map((one) => `${one.method} ${one.path}`)).toEqual([
        "POST /api/products/panel/webhooks/calls/31",
        "POST /api/products/panel/webhooks",
        "DELETE /api/products/panel/webhooks/7",
      ]),
    );
  });

  it("say how programs can be told where the installation lets none be", async () => {
    open({ "GET /api/products/panel/webhooks": { hosts: [], hooks: [] } });
    await userEvent.click(await screen.findByRole("button", { name: "Tell a program of each delivery" }));
    expect(await screen.findByText("--webhooks build.example")).toBeInTheDocument();
    expect(screen.queryByLabelText("Address")).toBeNull();
  });

  it("let a product fetch its texts: switched on, for pages, with a token that is shown once", async () => {
    const choice = { served: false, open: false, origins: [], shown: false, version: 3 };
    const token = {
      id: 7,
      name: "Bridge app",
      live: false,
      person: "Mara Tamm",
      madeAt: "2026-11-27T12:00:00Z",
      expiresAt: "2027-02-27T12:00:00Z",
    };
    const asked = open({
      "GET /api/products/panel/bundles": { choice, tokens: [] },
      "PUT /api/products/panel/bundles": {
        choice: { ...choice, served: true, origins: ["https://ferry.example"], shown: true, version: 4 },
        tokens: [],
      },
      "POST /api/products/panel/bundles/tokens": { secret: "bundle-once", desk: { choice, tokens: [token] } },
      "DELETE /api/products/panel/bundles/tokens/7": { choice, tokens: [] },
    });
    await userEvent.click(await screen.findByRole("button", { name: "Let the product fetch its texts" }));
    const dialog = within(await screen.findByRole("dialog"));
    await userEvent.click(await dialog.findByLabelText("Answer when this product asks"));
    await userEvent.type(dialog.getByLabelText("Pages that may read the answers"), "https://ferry.example");
    await userEvent.click(dialog.getByLabelText("Show anybody how far its languages are"));
    await userEvent.click(dialog.getByRole("button", { name: "Save" }));
    expect(await dialog.findByText(/api\/bundles\/panel\/de/)).toBeInTheDocument();
    expect(dialog.getByText(/api\/shown\/panel\/table/)).toBeInTheDocument();
    expect(dialog.getByRole("link", { name: "Who asked for what" })).toHaveAttribute("href", "/deliveries/panel/asked");
    expect(asked.find((one) => one.method === "PUT")?.json).toEqual({
      served: true,
      open: false,
      origins: ["https://ferry.example"],
      shown: true,
      version: 3,
    });
    await userEvent.type(dialog.getByLabelText("A token for"), "Bridge app");
    await userEvent.click(dialog.getByRole("button", { name: "Make a token" }));
    expect(await dialog.findByText("bundle-once")).toBeInTheDocument();
    await userEvent.keyboard("{Escape}");
    expect(dialog.getByText("bundle-once")).toBeInTheDocument();
    await userEvent.click(dialog.getByRole("button", { name: "I have kept it" }));
    expect(dialog.queryByText("bundle-once")).toBeNull();
    await userEvent.click(dialog.getByRole("button", { name: "End the token Bridge app" }));
    expect(await dialog.findByText("No token yet.")).toBeInTheDocument();
  });

  it("keep what is typed for a product's texts when somebody else was quicker", async () => {
    const choice = { served: true, open: false, origins: [], shown: false, version: 3 };
    const asked = open({
      "GET /api/products/panel/bundles": { choice, tokens: [] },
      "PUT /api/products/panel/bundles": refusal(409, "changed-meanwhile", "This was changed meanwhile"),
    });
    await userEvent.click(await screen.findByRole("button", { name: "Let the product fetch its texts" }));
    const dialog = within(await screen.findByRole("dialog"));
    await userEvent.type(await dialog.findByLabelText("Pages that may read the answers"), "https://ferry.example");
    await userEvent.click(dialog.getByRole("button", { name: "Save" }));
    expect(await dialog.findByText("This was changed meanwhile")).toBeInTheDocument();
    expect(dialog.getByLabelText("Pages that may read the answers")).toHaveValue("https://ferry.example");
    await userEvent.click(dialog.getByRole("button", { name: "Save" }));
    await waitFor(() => expect(asked.filter((one) => one.method === "PUT")).toHaveLength(2));
    expect(asked.filter((one) => one.method === "PUT")[1]?.json).toMatchObject({ version: 3 });
  });

  it("show what a recipe would make while one chooses, and keep it", async () => {
    const asked = open({
      "POST /api/products/panel/recipes/example": [{ path: "texts.csv", begins: "key,fi\nramp.up,Ylös" }],
      "PUT /api/products/panel/recipes/5": desk(),
    });
    await userEvent.click(await screen.findByRole("button", { name: /Panel texts/ }));
    const dialog = within(await screen.findByRole("dialog"));
    expect(await dialog.findByText("texts.csv")).toBeInTheDocument();
    expect(dialog.getByText(/ramp\.up,Ylös/)).toBeInTheDocument();
    await userEvent.click(dialog.getByLabelText("Is delivered"));
    await userEvent.click(dialog.getByRole("button", { name: "Save" }));
    await waitFor(() =>
      expect(asked.find((one) => one.method === "PUT")?.json).toMatchObject({
        name: "Panel texts",
        active: false,
        version: 2,
      }),
    );
  });

  it("look at every text when asked to, and say what no file of the recipe holds", async () => {
    const asked = open({
      "POST /api/products/panel/recipes/example": [{ path: "pl.csv", begins: "key,pl" }],
      "POST /api/products/panel/recipes/losses": [
        { language: "pl", counts: { section: 2 }, refused: ["ramp.up"], refusedCount: 1, why: "It lacks ą." },
      ],
    });
    await userEvent.click(await screen.findByRole("button", { name: /Panel texts/ }));
    const dialog = within(await screen.findByRole("dialog"));
    expect(asked.some((one) => one.path.endsWith("/losses"))).toBe(false);
    await userEvent.click(await dialog.findByRole("button", { name: "Look at every text" }));
    expect(await dialog.findByText(/1 entry cannot be written in this format: ramp.up/)).toBeInTheDocument();
    expect(dialog.getByText(/It lacks ą/)).toBeInTheDocument();
    expect(dialog.getByRole("heading", { name: "Polish" })).toBeInTheDocument();
    await userEvent.click(dialog.getByLabelText("Files"));
    await userEvent.click(await screen.findByRole("option", { name: /own files, in place/ }));
    await waitFor(() => expect(dialog.queryByText(/It lacks ą/)).toBeNull());
    expect(dialog.queryByLabelText("Format")).toBeNull();
    expect(dialog.getByLabelText("File names")).toHaveValue("{path}");
  });

  it("say in the example what stops the recipe", async () => {
    open({
      "POST /api/products/panel/recipes/example": refusal(409, "letters-lacking", "ramp.up in pl has letters"),
    });
    await userEvent.click(await screen.findByRole("button", { name: /Panel texts/ }));
    expect(await screen.findByText("ramp.up in pl has letters")).toBeInTheDocument();
  });

  it("offer nothing to do to those who only look", async () => {
    open({}, aPerson({ coordinator: false, levels: { pl: "reader" } }));
    expect(await screen.findByText("held back")).toBeInTheDocument();
    expect(screen.queryByRole("button", { name: /Deliver no/ })).toBeNull();
    expect(screen.queryByRole("button", { name: "Recall" })).toBeNull();
  });
});
