import { screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { Route, Routes } from "react-router";
import { describe, expect, it } from "vitest";
import type { Schemas } from "../../api/client";
import { aName, aPerson, aTable, show } from "../../test/builders";
import { refusal, serve, type Asked } from "../../test/server";
import { RehearsalPage } from "./RehearsalPage";

const language = (tag: string, selector: number) => ({
  language: aName(tag, tag === "de" ? "German" : "Finnish"),
  selector,
  hidden: false,
  shownAs: "",
  fallbacks: [],
  prefix: "",
});

const product: Schemas["ProductReply"] = {
  id: 1,
  slug: "panel",
  name: "Panel",
  kind: "panel",
  tables: [{ slug: "ramp-panel", name: "Ramp panel" }],
  languages: [language("de", 1), language("fi", 2)],
  start: "de",
  hosts: {},
  version: 0,
};

const finding = { code: "too-wide", wrong: true, values: { by: 4, width: 104, most: 100, line: 1, lines: 1 } };

const stage = (tag: string, more: Partial<Schemas["PlaceText"]> = {}): Schemas["Stage"] => ({
  language: tag,
  name: tag === "de" ? "German" : "Finnish",
  rightToLeft: false,
  selector: tag === "de" ? 1 : 2,
  font: null as unknown as number,
  pretend: false,
  texts: [
    {
      place: 1,
      entry: 7,
      table: "elsewhere",
      key: "ramp.up",
      lines: [`${tag}: Ramp up`],
      from: tag,
      borrowed: false,
      version: 1,
      form: "few",
      by: "n",
      steps: [{ code: "text", values: { language: tag, text: "Ramp up" }, said: `${tag}: Ramp up` }],
      findings: [finding],
      ...more,
    },
  ],
});

const played = (query: URLSearchParams): Schemas["Played"] => ({
  id: 3,
  name: "Bow",
  version: 1,
  width: 100,
  height: 50,
  drawing:
    '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 100 50"><text x="1" y="9" data-place="1"></text></svg>',
  places: [
    { number: 1, key: "ramp.up", asset: false, x: 1, y: 9, width: 100, height: 0, lines: 1, size: 16, align: "START" },
  ],
  choices: [
    {
      place: 1,
      name: "ramp.",
      list: true,
      values: ["ramp.up", "ramp.down", "ramp.fault"],
      now: query.get("choose")?.split("=")[1] ?? "ramp.up",
    },
  ],
  placeholders: { n: query.getAll("with").includes("n=3") ? "3" : "2" },
  stages: (query.getAll("in").length > 0 ? query.getAll("in") : ["de"]).map((tag) => stage(tag)),
});

function open(address = "/rehearsal/panel", answers: Parameters<typeof serve>[0] = {}, coordinator = true): Asked[] {
  const asked = serve({
    "GET /api/products": [product],
    "GET /api/tables": [aTable()],
    "GET /api/products/panel/scenes": [{ id: 3, name: "Bow", version: 1, places: 1, unknown: 0, picture: false }],
    "GET /api/products/panel/scenes/findings": {
      counts: [{ scene: 3, language: "fi", wrong: 2, mind: 0 }],
      found: [{ scene: 3, name: "Bow", language: "fi", place: 1, key: "ramp.up", finding }],
      more: false,
    },
    "GET /api/products/panel/scenes/3": (path: string) => played(new URLSearchParams(path.split("?")[1])),
    "GET /api/products/panel/answer": (path: string) => ({
      language: path.includes("asked=2") ? "fi" : "de",
      steps: [
        { code: "asked", values: { asked: "9" }, said: "9" },
        { code: "start", values: {}, said: "start language" },
      ],
      borrowed: false,
      key: false,
      textSteps: [],
    }),
    ...answers,
  });
  show(
    <Routes>
      <Route path="/rehearsal/:slug?/:scene?" element={<RehearsalPage me={aPerson({ coordinator })} />} />
      <Route path="*" element={<p>elsewhere</p>} />
    </Routes>,
    address,
  );
  return asked;
}

/** Something that waits until it is told to go on. */
function held() {
  let go: () => void = () => undefined;
  const wait = new Promise<void>((resolve) => (go = resolve));
  return { wait, go: () => go() };
}

describe("a rehearsal", () => {
  it("switches by the product's own register and tells the steps", async () => {
    open();
    expect(await screen.findAllByText("de: Ramp up")).not.toHaveLength(0);
    const register = screen.getByLabelText("Language register");
    expect(register).toHaveValue(1);
    await userEvent.clear(register);
    await userEvent.type(register, "2");
    await waitFor(() => expect(screen.getAllByText("Finnish")[0]).toBeInTheDocument());
    expect(register, "it stays the same field").toBeInTheDocument();
    expect(screen.getByText("9 → start language")).toBeInTheDocument();
  });

  it("shows another language at once as it is shown small, before the server has set it", async () => {
    const { wait, go } = held();
    open("/rehearsal/panel?in=de", {
      "GET /api/products/panel/scenes/3": async (path: string) => {
        const query = new URLSearchParams(path.split("?")[1]);
        if (query.toString() === "in=fi") await wait;
        return Response.json(played(query));
      },
    });
    await screen.findByRole("button", { name: /^Finnish/ });
    await userEvent.click(screen.getByRole("button", { name: /^Finnish/ }));
    expect(await screen.findByRole("button", { name: "ramp.up: fi: Ramp up" })).toBeInTheDocument();
    go();
  });

  it("does not show the scene before for another that is still on its way", async () => {
    const { wait, go } = held();
    open("/rehearsal/panel/3?at=1", {
      "GET /api/products/panel/scenes": [
        { id: 3, name: "Bow", version: 1, places: 1, unknown: 0, picture: false },
        { id: 4, name: "Stern", version: 1, places: 1, unknown: 0, picture: false },
      ],
      "GET /api/products/panel/scenes/4": async (path: string) => {
        await wait;
        return Response.json({ ...played(new URLSearchParams(path.split("?")[1])), id: 4, name: "Stern" });
      },
    });
    expect(await screen.findByRole("region", { name: "The place" })).toBeInTheDocument();
    await userEvent.click(screen.getByRole("link", { name: /Stern/ }));
    await waitFor(() => expect(screen.queryByRole("button", { name: /^ramp.up/ })).toBeNull());
    go();
    expect(await screen.findByRole("button", { name: /^ramp.up/ })).toBeInTheDocument();
    expect(screen.queryByRole("region", { name: "The place" }), "it is no place of this scene").toBeNull();
  });

  it("tells the form that a number chooses, and what is found in other languages", async () => {
    open();
    expect(await screen.findByText("de: few")).toBeInTheDocument();
    const findings = screen.getByRole("region", { name: "Findings in all languages" });
    expect(within(findings).getAllByText(/4 pixels too wide/)).toHaveLength(2);
    expect(screen.getByText("2 to mend", { selector: "small" })).toBeInTheDocument();
  });

  it("goes from one entry of a list to the next, and to the one that a finding is about", async () => {
    const asked = open("/rehearsal/panel", {
      "GET /api/products/panel/scenes/findings": {
        counts: [],
        found: [{ scene: 3, name: "Bow", language: "de", place: 1, key: "ramp.fault", finding }],
        more: false,
      },
    });
    const last = () => asked.filter(({ path }) => path.includes("/scenes/3?")).at(-1)?.path ?? "";
    await userEvent.click(await screen.findByRole("button", { name: "ramp.: the next one" }));
    expect(await screen.findByDisplayValue("ramp.down")).toBeInTheDocument();
    expect(screen.getByText("2 of 3")).toBeInTheDocument();
    expect(last()).toContain("choose=1%3Dramp.down");
    const findings = screen.getByRole("region", { name: "Findings in all languages" });
    await userEvent.click(within(findings).getByRole("button", { name: /ramp\.fault/ }));
    expect(await screen.findByDisplayValue("ramp.fault")).toBeInTheDocument();
    expect(screen.getByRole("region", { name: "The place" })).toBeInTheDocument();
  });

  it("tells how a text was found and what is wrong with it when its place is chosen", async () => {
    open();
    const place = await screen.findByRole("button", { name: "ramp.up: de: Ramp up" });
    await userEvent.click(place);
    const note = screen.getByRole("region", { name: "The place" });
    expect(within(note).getByText(/4 pixels too wide/)).toBeInTheDocument();
    expect(within(note).getAllByText("de: Ramp up").length).toBeGreaterThan(0);
    await userEvent.click(within(note).getByRole("button", { name: "Close" }));
    expect(screen.queryByRole("region", { name: "The place" })).toBeNull();
  });

  it("asks before a drawing that is there is replaced, and sends it again only then", async () => {
    const asked = open("/rehearsal/panel", {
      "POST /api/products/panel/scenes": (path: string) =>
        path.includes("anyway=true")
          ? {
              scenes: [{ id: 3, name: "Bow", version: 2, places: 1, unknown: 0, picture: false }],
              leftOut: ["Bow, line 2: a script; left out."],
            }
          : refusal(409, "scene-exists", "Panel has “Bow” already."),
    });
    const file = await screen.findByLabelText("Drawings or pictures");
    await userEvent.upload(file, new File(["<svg/>"], "Bow.svg", { type: "image/svg+xml" }));
    expect(await screen.findByText("Panel has “Bow” already.")).toBeInTheDocument();
    const posts = () => asked.filter(({ method }) => method === "POST").map(({ path }) => path);
    expect(posts()).toHaveLength(1);
    await userEvent.click(screen.getByRole("button", { name: "Replace the drawing" }));
    expect(await screen.findByText(/“Bow” has 1 place\..*a script; left out/)).toBeInTheDocument();
    expect(posts()[1]).toContain("anyway=true");
  });

  it("says what went wrong and keeps what is seen", async () => {
    open("/rehearsal/panel", {
      "GET /api/products/panel/scenes/3": refusal(422, "never-delivered", "Panel was never delivered."),
    });
    expect(await screen.findByText("Panel was never delivered.")).toBeInTheDocument();
  });

  it("offers nothing to bring to those who may not", async () => {
    open("/rehearsal/panel", {}, false);
    expect(await screen.findByRole("link", { name: /Bow/ })).toBeInTheDocument();
    expect(screen.queryByRole("button", { name: "New scene" })).toBeNull();
    expect(screen.queryByRole("button", { name: "Take the scene out" })).toBeNull();
  });
});
