import { afterEach, describe, expect, it, vi } from "vitest";
import english from "../words/en.json";
import { speak } from "../words/spoken";
import { ask, findingSaid, mendSaid, Refused, sentenceOf, Unreachable, whenSignedOut } from "./client";
import { answered, lineIsUp } from "./line";

const answering = (response: Response) =>
  vi.spyOn(globalThis, "fetch").mockImplementation(() => Promise.resolve(response.clone()));

afterEach(() => {
  vi.restoreAllMocks();
  whenSignedOut(() => undefined);
});

describe("asking the server", () => {
  it("gives the reply's JSON, or nothing for an empty reply", async () => {
    answering(Response.json({ a: 1 }));
    expect(await ask("/api/x")).toEqual({ a: 1 });
    answering(new Response(null, { status: 204 }));
    expect(await ask("/api/x", { method: "DELETE" })).toBeUndefined();
  });

  it("sends the page's token with every write and with no read", async () => {
    document.cookie = "XSRF-TOKEN=a%2Fb";
    const fetch = answering(Response.json({}));
    await ask("/api/x", { method: "POST", json: { a: 1 } });
    expect(fetch.mock.calls[0]?.[1]?.headers).toMatchObject({
      "X-XSRF-TOKEN": "a/b",
      "Content-Type": "application/json",
    });
    await ask("/api/x");
    expect(fetch.mock.calls[1]?.[1]?.headers).not.toHaveProperty("X-XSRF-TOKEN");
  });

  it("turns a refusal into its sentence, code and details", async () => {
    answering(
      Response.json({ detail: "Someone changed this.", code: "cell-moved-on", cell: { version: 2 } }, { status: 409 }),
    );
    const refused = await ask("/api/x").catch((failure: unknown) => failure);
    expect(refused).toBeInstanceOf(Refused);
    expect(refused).toMatchObject({
      status: 409,
      code: "cell-moved-on",
      message: "Someone changed this.",
      details: { cell: { version: 2 } },
    });
  });

  it("says so when a refusal has no reason", async () => {
    answering(new Response("<html>", { status: 502, headers: { "Content-Type": "text/html" } }));
    await expect(ask("/api/x")).rejects.toThrow("The server answered with 502 and gave no reason.");
  });

  it("tells a server that is away from one that refuses", async () => {
    vi.spyOn(globalThis, "fetch").mockRejectedValue(new TypeError("Failed to fetch"));
    await expect(ask("/api/x")).rejects.toBeInstanceOf(Unreachable);
  });

  it("lets the page know that nobody is signed in any more, but not when signing in fails", async () => {
    const out = vi.fn();
    whenSignedOut(out);
    answering(new Response(null, { status: 401 }));
    await ask("/api/session", { method: "POST", json: {} }).catch(() => undefined);
    expect(out).not.toHaveBeenCalled();
    answering(new Response(null, { status: 401 }));
    await ask("/api/tables").catch(() => undefined);
    expect(out).toHaveBeenCalledOnce();
  });

  it("knows a server that cannot do anything just now from one that refuses", async () => {
    vi.stubGlobal("fetch", () =>
      Promise.resolve(Response.json({ code: "database-away", detail: "Away." }, { status: 503 })),
    );
    await expect(ask("/api/x")).rejects.toThrow("Away.");
    expect(lineIsUp()).toBe(false);
    vi.stubGlobal("fetch", () => Promise.resolve(Response.json({ code: "no", detail: "No." }, { status: 403 })));
    await expect(ask("/api/x")).rejects.toThrow("No.");
    expect(lineIsUp()).toBe(true);
  });

  it("takes a page that is not ours for no answer, and says so", async () => {
    answering(new Response("<html>Sign in to the network</html>", { status: 200 }));
    await expect(ask("/api/tables")).rejects.toThrow(Unreachable);
    await expect(ask("/api/tables")).rejects.toThrow("Something between this page and the server");
    answered();
  });

  it("takes a reply that breaks off for none", async () => {
    const half = () => new ReadableStream({ pull: (stream) => stream.error(new TypeError("network error")) });
    vi.spyOn(globalThis, "fetch").mockImplementation(() => Promise.resolve(new Response(half(), { status: 200 })));
    await expect(ask("/api/tables")).rejects.toThrow(Unreachable);
    vi.spyOn(globalThis, "fetch").mockImplementation(() => Promise.resolve(new Response(half(), { status: 409 })));
    await expect(ask("/api/tables")).rejects.toThrow(Unreachable);
    answered();
  });

  it("says the status where a refusal is no JSON although it says so", async () => {
    const broken = new Response("{", { status: 500, headers: { "Content-Type": "application/json" } });
    answering(broken);
    await expect(ask("/api/tables")).rejects.toThrow("The server answered with 500 and gave no reason.");
  });
});

describe("what the server says by code and values", () => {
  afterEach(() => speak("en", english));

  it("is said in the words of the interface with its values", () => {
    speak("de", { "refusal.no-such-table": "Es gibt keine Tabelle „{table}“." });
    const refused = new Refused(404, "no-such-table", "There is no table “Bridge”.", { table: "Bridge", status: 404 });
    expect(sentenceOf(refused)).toBe("Es gibt keine Tabelle „Bridge“.");
  });

  it("is said with what stands against a text, each in the words of the interface too", () => {
    speak("de", { "refusal.blocked": "Das geht so nicht.", "finding.placeholder-missing": "Es fehlt {placeholder}." });
    const missing = { code: "placeholder-missing", sentence: "Missing: %d.", values: { placeholder: "%d" } };
    const refused = new Refused(422, "blocked", "This cannot be settled. Missing: %d.", { blockers: [missing] });
    expect(sentenceOf(refused)).toBe("Das geht so nicht. Es fehlt %d.");
    speak("de", {});
    expect(sentenceOf(refused)).toBe("This cannot be settled. Missing: %d.");
  });

  it("is said as the server says it where there are no words, or a value is not told", () => {
    speak("de", { "refusal.no-such-table": "Es gibt keine Tabelle „{table}“." });
    expect(sentenceOf(new Refused(404, "no-such-table", "There is no such table.", {}))).toBe(
      "There is no such table.",
    );
    expect(sentenceOf(new Refused(409, "other", "Something else.", { table: "Bridge" }))).toBe("Something else.");
  });

  it("tells a finding, its form and its mend the same way", () => {
    speak("de", {
      "finding.number-missing": "Im Ausgangstext steht {number}.",
      "mend.number-missing": "{number} einsetzen",
      "checks.inForm": "{form}: ",
    });
    const finding = {
      kind: "number",
      code: "number-missing",
      severity: "warning",
      form: "one",
      sentence: "The source says 1500, this text does not.",
      values: { number: "1500" },
      start: -1,
      end: -1,
      mend: "Put 1500 in",
    };
    expect(findingSaid(finding, true)).toBe("one: Im Ausgangstext steht 1500.");
    expect(mendSaid(finding)).toBe("1500 einsetzen");
    expect(mendSaid({ ...finding, code: "other" })).toBe("Put 1500 in");
  });
});
