import { screen, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { useLocation } from "react-router";
import { describe, expect, it, vi } from "vitest";
import type { Schemas } from "../../api/client";
import { aName, aTable, show } from "../../test/builders";
import { changes, refusal, serve } from "../../test/server";
import { NewTableDialog } from "./NewTableDialog";
import { ProductDialog } from "./ProductDialog";

const names = [aName("pl", "Polish"), aName("pt-BR", "Brazilian Portuguese"), aName("en", "English")];
const languages = (path: string) => {
  const like = decodeURIComponent(path.split("like=")[1] ?? "").toLowerCase();
  return names.filter((one) => one.englishName.toLowerCase().startsWith(like));
};

async function pick(label: string | RegExp, words: string, option: RegExp) {
  await userEvent.type(screen.getByRole("combobox", { name: label }), words);
  await userEvent.click(await screen.findByRole("option", { name: option }));
}

function Where() {
  const { pathname, search } = useLocation();
  return <output>{pathname + search}</output>;
}

const tables = [aTable(), aTable({ id: 2, slug: "deckside", name: "Deckside" })];

function aProduct(part: Partial<Schemas["ProductReply"]> = {}): Schemas["ProductReply"] {
  return {
    slug: "bridge",
    name: "Bridge",
    kind: "panel",
    tables: [{ slug: "ramp-panel", name: "Ramp panel" }],
    languages: [
      { language: aName("en", "English"), selector: 0, hidden: false, shownAs: "", fallbacks: [], prefix: "" },
      { language: aName("pl", "Polish"), selector: 3, hidden: true, shownAs: "Polski", fallbacks: ["en"], prefix: "" },
    ],
    version: 5,
    ...part,
  } as Schemas["ProductReply"];
}

describe("a product", () => {
  it("is made with its tables and languages", async () => {
    const asked = serve({ "GET /api/languages": languages, "POST /api/products": aProduct() });
    const onDone = vi.fn();
    show(<ProductDialog product={null} tables={tables} onDone={onDone} onClose={vi.fn()} />);
    await userEvent.click(screen.getByRole("button", { name: "Save" }));
    expect(screen.getByRole("alert")).toHaveTextContent("Still missing: a name, a table whose texts it uses.");
    expect(changes(asked)).toEqual([]);
    await userEvent.type(screen.getByRole("textbox", { name: "Name" }), "Deckside");
    await userEvent.click(screen.getByRole("checkbox", { name: "Deckside" }));
    await pick("Add a language", "pol", /Polish/);
    await userEvent.type(screen.getByRole("spinbutton", { name: "Selector number of Polish" }), "2");
    await userEvent.click(screen.getByRole("button", { name: "Save" }));
    await vi.waitFor(() => expect(onDone).toHaveBeenCalled());
    expect(changes(asked)[0]?.json).toEqual({
      version: 0,
      name: "Deckside",
      kind: "app",
      tables: ["deckside"],
      languages: [{ tag: "pl", selector: 2, hidden: false, fallbacks: [], prefix: "" }],
    });
  });

  it("changes the order of its languages and takes one out", async () => {
    const asked = serve({ "PUT /api/products/bridge": aProduct() });
    const onDone = vi.fn();
    show(<ProductDialog product={aProduct()} tables={tables} onDone={onDone} onClose={vi.fn()} />);
    expect(screen.getByRole("button", { name: "English: one up" })).toBeDisabled();
    await userEvent.click(screen.getByRole("button", { name: "Polish: one up" }));
    expect(screen.getAllByRole("rowheader").map((one) => one.textContent)).toEqual(["Polish", "English"]);
    const english = screen.getByRole("row", { name: /English/ });
    await userEvent.click(within(english).getByRole("button", { name: "Take out" }));
    await userEvent.click(screen.getByRole("button", { name: "Save" }));
    await vi.waitFor(() => expect(onDone).toHaveBeenCalled());
    expect(changes(asked)[0]?.json).toMatchObject({
      version: 5,
      languages: [{ tag: "pl", selector: 3, hidden: true, shownAs: "Polski", fallbacks: ["en"] }],
    });
  });

  it("of a site has hosts that start in its languages, and names for its picker", async () => {
    const asked = serve({ "PUT /api/products/bridge": aProduct() });
    const site = aProduct({ kind: "site", hosts: { "old.example": "pl", "en.example": "en" } });
    const onDone = vi.fn();
    show(<ProductDialog product={site} tables={tables} onDone={onDone} onClose={vi.fn()} />);
    const polish = screen.getByRole("textbox", { name: "Hosts that start in Polish" });
    expect(polish).toHaveValue("old.example");
    await userEvent.clear(polish);
    await userEvent.type(polish, "promy.example, www.promy.example");
    const shown = screen.getByRole("textbox", { name: "What Polish is called in the product’s language picker" });
    await userEvent.clear(shown);
    await userEvent.type(shown, "PL");
    const english = screen.getByRole("row", { name: /English/ });
    await userEvent.click(within(english).getByRole("button", { name: "Take out" }));
    await userEvent.click(screen.getByRole("button", { name: "Save" }));
    await vi.waitFor(() => expect(onDone).toHaveBeenCalled());
    expect(changes(asked)[0]?.json).toMatchObject({
      languages: [{ tag: "pl", shownAs: "PL" }],
      hosts: { "promy.example": "pl", "www.promy.example": "pl" },
    });
    expect((changes(asked)[0]?.json as { hosts: object }).hosts).not.toHaveProperty("old.example");
    expect((changes(asked)[0]?.json as { hosts: object }).hosts).not.toHaveProperty("en.example");
  });

  it("is removed only when that is meant", async () => {
    const asked = serve({ "DELETE /api/products/bridge": null });
    const onDone = vi.fn();
    show(<ProductDialog product={aProduct()} tables={tables} onDone={onDone} onClose={vi.fn()} />);
    await userEvent.click(screen.getByRole("button", { name: "Remove the product" }));
    const question = screen.getByRole("dialog", { name: "Remove Bridge?" });
    await userEvent.click(within(question).getByRole("button", { name: "Cancel" }));
    expect(changes(asked)).toHaveLength(0);
    await vi.waitFor(() => expect(question).not.toBeInTheDocument());
    await userEvent.click(screen.getByRole("button", { name: "Remove the product" }));
    await userEvent.click(
      within(screen.getByRole("dialog", { name: "Remove Bridge?" })).getByRole("button", {
        name: "Remove the product",
      }),
    );
    await vi.waitFor(() => expect(onDone).toHaveBeenCalled());
  });

  it("says what is wrong with two equal selector numbers", async () => {
    serve({ "PUT /api/products/bridge": refusal(422, "selector_twice", "Two languages have the selector 3.") });
    show(<ProductDialog product={aProduct()} tables={tables} onDone={vi.fn()} onClose={vi.fn()} />);
    await userEvent.click(screen.getByRole("button", { name: "Save" }));
    expect(await screen.findByRole("alert")).toHaveTextContent("Two languages have the selector 3.");
  });
});

describe("a new table", () => {
  it("is made and opened", async () => {
    const asked = serve({ "GET /api/languages": languages, "POST /api/tables": aTable({ slug: "signs" }) });
    show(
      <>
        <NewTableDialog onClose={vi.fn()} />
        <Where />
      </>,
    );
    await userEvent.type(screen.getByRole("textbox", { name: "Name" }), "Signs");
    await userEvent.click(screen.getByRole("button", { name: "Make the table" }));
    expect(screen.getByRole("alert")).toHaveTextContent(
      "Still missing: the language that the source texts are written in, at least one language to translate into.",
    );
    await pick(/source/i, "eng", /English/);
    await pick("Add a language", "pol", /Polish/);
    await pick("Add a language", "braz", /Portuguese/);
    await userEvent.click(screen.getByRole("button", { name: "Make the table" }));
    await vi.waitFor(() => expect(document.querySelector("output")).toHaveTextContent("/ledger?table=signs"));
    expect(changes(asked)[0]?.json).toEqual({ name: "Signs", source: "en", languages: ["pl", "pt-BR"] });
  });
});
