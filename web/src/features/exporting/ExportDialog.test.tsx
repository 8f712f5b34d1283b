import { screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { beforeEach, describe, expect, it, vi } from "vitest";
import { aTable, show } from "../../test/builders";
import { ExportDialog } from "./ExportDialog";

const FORMATS = {
  charsets: ["UTF-8"],
  formats: ["csv", "po"].map((name) => ({
    name,
    ending: name,
    mediaType: "text/plain",
    apart: name === "po",
    inPlace: true,
    spellsItself: false,
  })),
};
const NONE = { counts: {}, refused: [], refusedCount: 0 };

function open(files: string[], reply: () => Response, losses: object = NONE) {
  const asked: string[] = [];
  vi.spyOn(globalThis, "fetch").mockImplementation((input) => {
    asked.push(String(input));
    if (String(input) === "/api/formats") return Promise.resolve(Response.json(FORMATS));
    if (String(input).includes("/losses")) return Promise.resolve(Response.json(losses));
    return Promise.resolve(String(input).endsWith("/files") ? Response.json(files) : reply());
  });
  const onClose = vi.fn();
  show(<ExportDialog table={aTable()} languages={["fi"]} onClose={onClose} />);
  return { asked, onClose };
}

describe("sending out", () => {
  beforeEach(() => {
    vi.restoreAllMocks();
    URL.createObjectURL = vi.fn(() => "blob:x");
    URL.revokeObjectURL = vi.fn();
    vi.spyOn(HTMLAnchorElement.prototype, "click").mockImplementation(() => undefined);
  });

  it("offers the file that the table came from first", async () => {
    const { asked, onClose } = open(["ramp panel.csv", "part.csv"], () => new Response("key,en"));
    await screen.findByText("ramp panel.csv");
    await userEvent.click(screen.getByRole("button", { name: "Send out" }));
    await vi.waitFor(() => expect(onClose).toHaveBeenCalled());
    expect(asked.at(-1)).toBe("/api/tables/ramp-panel/export/in-place?file=ramp+panel.csv");
  });

  it("makes a fresh file of what was chosen where there is none", async () => {
    const { asked, onClose } = open([], () => new Response("key,en"));
    expect(await screen.findByRole("radio", { name: /did not come from a file/ })).toBeDisabled();
    await userEvent.click(screen.getByRole("checkbox", { name: "Only settled texts" }));
    await userEvent.click(screen.getByRole("button", { name: "Send out" }));
    await vi.waitFor(() => expect(onClose).toHaveBeenCalled());
    expect(asked.at(-1)).toBe(
      "/api/tables/ramp-panel/export/fresh?format=csv&in=&untranslated=empty&onlySettled=true&delimiter=comma&guard=true&leaveOut=false&pattern=%7Btable%7D-%7Blanguage%7D.%7Bext%7D",
    );
  });

  it("asks for another format, its languages and what stands where nothing is translated", async () => {
    const { asked, onClose } = open([], () => new Response("msgid"));
    await screen.findByRole("radio", { name: /did not come from a file/ });
    const pick = async (label: string, option: RegExp) => {
      await userEvent.click(screen.getByRole("combobox", { name: label }));
      await userEvent.click(await screen.findByRole("option", { name: option }));
    };
    await pick("Format", /^PO/);
    await pick("Languages", /^fi$/);
    await pick("Where there is no text", /what users would see/);
    await userEvent.click(screen.getByRole("button", { name: "Send out" }));
    await vi.waitFor(() => expect(onClose).toHaveBeenCalled());
    expect(asked.at(-1)).toContain("format=po&in=fi&untranslated=fallback");
  });

  it("tells what a format has no place for before anything is sent", async () => {
    const losses = {
      counts: { section: 3, plural_forms: 1 },
      refused: ["lamp"],
      refusedCount: 12,
      why: "PO has no states.",
    };
    const { asked } = open([], () => Response.json([]), losses);
    expect(await screen.findByText("the sections of 3 entries")).toBeVisible();
    expect(screen.getByText("a plural form of 1 text")).toBeVisible();
    expect(screen.getByText(/12 entries cannot be written in this format: lamp/)).toBeVisible();
    expect(screen.getByText(/PO has no states/)).toBeVisible();
    expect(asked.some((address) => address.includes("/export/losses?format=csv"))).toBe(true);
    await userEvent.click(screen.getByRole("checkbox", { name: "Go on without them" }));
    await userEvent.click(screen.getByRole("button", { name: "Send out" }));
    await vi.waitFor(() => expect(asked.at(-1)).toContain("leaveOut=true"));
  });

  it("stays open with the sentence when the file cannot be made", async () => {
    const { onClose } = open(["ramp.csv"], () =>
      Response.json({ detail: "The text of up has the character “半”." }, { status: 422 }),
    );
    await screen.findByText("ramp.csv");
    await userEvent.click(screen.getByRole("button", { name: "Send out" }));
    expect(await screen.findByRole("alert")).toHaveTextContent("The text of up has the character “半”.");
    expect(onClose).not.toHaveBeenCalled();
  });
});
