import { act, screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { Route, Routes } from "react-router";
import { beforeEach, expect, it, vi } from "vitest";
import { aPerson, show } from "../../test/builders";
import { AssetSetPage } from "./AssetSetPage";
import type { AssetFile, AssetSet } from "./useAssetSet";

const file = (position: number, part: Partial<AssetFile> = {}): AssetFile => ({
  position,
  path: `media/logo_${position}.png`,
  file: 70 + position,
  facts: { kind: "png", bytes: 2048, width: 96, height: 64, milliseconds: 0 },
  key: "logo",
  language: "en",
  said: false,
  leftOut: false,
  gone: [],
  ...part,
});

let set: AssetSet;
let sent: { method: string; path: string; body: Record<string, unknown> }[];

beforeEach(() => {
  sent = [];
  set = {
    id: 5,
    version: 3,
    options: {
      patterns: ["media/{key}_{language}.{ext}"],
      newTable: "Media",
      source: "en",
      arrival: "SETTLED",
    },
    proposed: ["media/{key}_{language}.{ext}"],
    files: [
      file(0),
      file(1, { language: "fi" }),
      file(2, {
        path: "media/back.png",
        key: undefined,
        language: undefined,
        leftOut: true,
        why: "Its name tells no language.",
      }),
    ],
    entries: 1,
    languages: [
      { language: "en", there: 1, missing: [] },
      { language: "de", there: 0, missing: ["logo"] },
    ],
    taken: false,
  };
  vi.spyOn(globalThis, "fetch").mockImplementation(answer);
});

/** What the server says, and what it was sent. */
const answer: typeof fetch = (input, init) => {
  const path = String(input);
  if (init?.method && init.method !== "GET") {
    const body = JSON.parse(typeof init.body === "string" ? init.body : "{}") as Record<string, unknown>;
    sent.push({ method: init.method, path, body });
    set = { ...set, version: set.version + 1 };
    return Promise.resolve(Response.json(path.includes("/intake?") ? { intake: 12 } : set));
  }
  return Promise.resolve(Response.json(path.includes("asset-sets") ? set : []));
};

async function open() {
  show(
    <Routes>
      <Route path="/intake/assets/:id" element={<AssetSetPage me={aPerson({ coordinator: true })} />} />
      <Route path="/intake/:id" element={<p>The intake</p>} />
    </Routes>,
    "/intake/assets/5",
  );
  await screen.findByText("2 pictures and sounds");
}

it("tells what the names say and what lacks", async () => {
  await open();
  const languages = screen.getByRole("table", { name: "What there is of each language" });
  expect(within(languages).getByText("0 of 1")).toBeInTheDocument();
  expect(within(languages).getByText("logo")).toBeInTheDocument();
  expect(screen.getByText("Its name tells no language.")).toBeInTheDocument();
  expect(screen.getByRole("checkbox", { name: "Take media/back.png in" })).not.toBeChecked();
});

it("sends a corrected pattern, and the next change with the version that it left", async () => {
  await open();
  const pattern = screen.getByRole("textbox", { name: "Pattern 1" });
  await userEvent.clear(pattern);
  await userEvent.type(pattern, "media/{{key}.{{language}.{{ext}{Enter}");
  await waitFor(() => expect(sent).toHaveLength(1));
  expect(sent[0]?.body).toMatchObject({
    version: 3,
    options: { patterns: ["media/{key}.{language}.{ext}"] },
    files: [],
  });
  await userEvent.click(screen.getByRole("checkbox", { name: "Take media/logo_1.png in" }));
  await waitFor(() => expect(sent).toHaveLength(2));
  expect(sent[1]?.body).toMatchObject({ version: 4, files: [{ position: 1, leftOut: true }] });
});

it("sends the entry of a file with its language, so that neither is lost", async () => {
  await open();
  const key = screen.getByRole("textbox", { name: "Entry of media/logo_1.png" });
  await userEvent.clear(key);
  await userEvent.type(key, "sign{Enter}");
  await waitFor(() => expect(sent[0]?.body).toMatchObject({ files: [{ position: 1, key: "sign", language: "fi" }] }));
});

it("takes what has no language as sources, all at once", async () => {
  await open();
  await userEvent.click(screen.getByRole("button", { name: /Take those without a language as English/ }));
  await waitFor(() =>
    expect(sent[0]?.body).toMatchObject({
      files: [{ position: 2, key: "media/back", language: "en", leftOut: false }],
    }),
  );
});

it("goes on to what they would do, and not while something stands against it", async () => {
  await open();
  await userEvent.click(screen.getByRole("button", { name: "See what they would do" }));
  expect(await screen.findByText("The intake")).toBeInTheDocument();
  expect(sent[0]?.path).toBe("/api/asset-sets/5/intake?version=3");
});

it("says what stands against it", async () => {
  set = { ...set, blocked: "a and b are both for “logo” in fi." };
  await open();
  expect(screen.getByRole("button", { name: "See what they would do" })).toBeDisabled();
  expect(screen.getByText("a and b are both for “logo” in fi.")).toBeInTheDocument();
});

it("tells how far looking through them is", async () => {
  set = { ...set, files: [], run: { status: "going", done: 12, total: 60, message: "" } };
  show(
    <Routes>
      <Route path="/intake/assets/:id" element={<AssetSetPage me={aPerson()} />} />
    </Routes>,
    "/intake/assets/5",
  );
  expect(await screen.findByText("Looking at 12 of 60 …")).toBeInTheDocument();
});

it("says of what was taken in that it was, and where it is", async () => {
  set = {
    ...set,
    options: { ...set.options, newTable: undefined, table: "media" },
    tableName: "Media",
    files: [],
    intake: 9,
    taken: true,
  };
  show(
    <Routes>
      <Route path="/intake/assets/:id" element={<AssetSetPage me={aPerson()} />} />
    </Routes>,
    "/intake/assets/5",
  );
  expect(await screen.findByText("These pictures and sounds were taken in.")).toBeInTheDocument();
  expect(screen.getByRole("link", { name: "What was taken in" })).toHaveAttribute("href", "/intake/9");
  expect(screen.getByRole("link", { name: "See Media" })).toHaveAttribute("href", "/ledger?table=media");
  expect(screen.queryByRole("button", { name: "See what they would do" })).toBeNull();
});

/** Lets replies come only when they are let through. */
function holdReplies() {
  const waiting: (() => void)[] = [];
  vi.mocked(globalThis.fetch).mockImplementation((input, init) =>
    init?.method === "PUT" || init?.method === "POST"
      ? new Promise((done) => waiting.push(() => done(answer(input, init))))
      : answer(input, init),
  );
  return async () => {
    await waitFor(() => expect(waiting.length).toBeGreaterThan(0));
    await act(async () => {
      waiting.shift()?.();
      await Promise.resolve();
    });
  };
}

it("lets one type on while the server is slow, and loses nothing of it", async () => {
  await open();
  const next = holdReplies();
  const first = screen.getByRole("textbox", { name: "Entry of media/logo_0.png" });
  const second = screen.getByRole("textbox", { name: "Entry of media/logo_1.png" });
  await userEvent.clear(first);
  await userEvent.type(first, "deck");
  await userEvent.tab();
  await userEvent.clear(second);
  await userEvent.type(second, "quay{Enter}");
  const box = screen.getByRole("checkbox", { name: "Take media/logo_1.png in" });
  await userEvent.click(box);
  expect(box).not.toBeChecked();
  expect(first).toHaveValue("deck");
  expect(second).toHaveValue("quay");
  await userEvent.click(screen.getByRole("button", { name: "See what they would do" }));
  await next();
  await next();
  await next();
  await next();
  expect(await screen.findByText("The intake")).toBeInTheDocument();
  expect(sent.map((one) => [one.body.version, (one.body.files as { key?: string }[] | undefined)?.[0]?.key])).toEqual([
    [3, "deck"],
    [4, "quay"],
    [5, undefined],
    [undefined, undefined],
  ]);
  expect(sent[3]?.path).toBe("/api/asset-sets/5/intake?version=6");
});

it("keeps what was typed when the server refuses it, and sends it again on Enter", async () => {
  await open();
  vi.mocked(globalThis.fetch).mockImplementation((input, init) =>
    init?.method === "PUT"
      ? Promise.resolve(Response.json({ detail: "“x” stands for nothing." }, { status: 422 }))
      : answer(input, init),
  );
  const pattern = screen.getByRole("textbox", { name: "Pattern 1" });
  await userEvent.clear(pattern);
  await userEvent.type(pattern, "a/{{key}.{{language}.{{ext}{Enter}");
  expect(await screen.findByText("“x” stands for nothing.")).toBeInTheDocument();
  expect(pattern).toHaveValue("a/{key}.{language}.{ext}");
  vi.mocked(globalThis.fetch).mockImplementation(answer);
  await userEvent.type(pattern, "{Enter}");
  await waitFor(() => expect(sent[0]?.body).toMatchObject({ options: { patterns: ["a/{key}.{language}.{ext}"] } }));
});

it("adds a pattern behind the others", async () => {
  await open();
  await userEvent.click(screen.getByRole("button", { name: "Another pattern" }));
  await userEvent.type(screen.getByRole("textbox", { name: "Pattern 2" }), "{{key}-{{language}.{{ext}{Enter}");
  await waitFor(() =>
    expect(sent[0]?.body).toMatchObject({
      options: { patterns: ["media/{key}_{language}.{ext}", "{key}-{language}.{ext}"] },
    }),
  );
});
