import { hasWords } from "../words/spoken";
import { piecesOf, t } from "../words/words";
import { answered, notAnswered } from "./line";
import type { components } from "./schema";

export type Schemas = components["schemas"];

/** What the server says when it refuses: a stable code, a sentence for people, and what it concerns. */
export class Refused extends Error {
  readonly status: number;
  readonly code: string;
  readonly details: Record<string, unknown>;

  constructor(status: number, code: string, sentence: string, details: Record<string, unknown>) {
    super(sentence);
    this.status = status;
    this.code = code;
    this.details = details;
  }
}

/** The server cannot be reached. */
export class Unreachable extends Error {
  constructor(sentence = t("api.unreachable")) {
    super(sentence);
  }
}

const CSRF_COOKIE = "XSRF-TOKEN=";

function csrfToken(): string {
  const cookie = document.cookie.split("; ").find((part) => part.startsWith(CSRF_COOKIE));
  return cookie ? decodeURIComponent(cookie.slice(CSRF_COOKIE.length)) : "";
}

/** The server, what is before it or what is behind it cannot do anything just now. */
const AWAY = [502, 503, 504];

/** The least that can be asked for. */
function look(): Promise<unknown> {
  return ask("/api/session");
}

let onSignedOut: () => void = () => undefined;

/** Sets what happens when the server says that nobody is signed in any more. */
export function whenSignedOut(action: () => void): void {
  onSignedOut = action;
}

interface Request {
  method?: "GET" | "POST" | "PUT" | "DELETE";
  json?: unknown;
  bytes?: Blob;
  signal?: AbortSignal;
}

/**
 * Asks the server.
 *
 * @param path - address below the server, with its query
 * @returns the reply's JSON, or undefined when it has none
 * @throws Refused with the server's sentence; Unreachable when there was no answer
 */
export async function ask<T>(path: string, request: Request = {}): Promise<T> {
  const method = request.method ?? "GET";
  const headers: Record<string, string> = { Accept: "application/json" };
  if (method !== "GET") {
    headers["X-XSRF-TOKEN"] = csrfToken();
  }
  if (request.json !== undefined) {
    headers["Content-Type"] = "application/json";
  } else if (request.bytes) {
    headers["Content-Type"] = "application/octet-stream";
  }
  let response: Response;
  try {
    response = await fetch(path, {
      method,
      headers,
      body: request.json !== undefined ? JSON.stringify(request.json) : request.bytes,
      signal: request.signal,
    });
  } catch (failure) {
    if (failure instanceof DOMException && failure.name === "AbortError") {
      throw failure;
    }
    notAnswered(look);
    throw new Unreachable();
  }
  if (!response.ok) {
    throw await refusal(response, path);
  }
  const text = await whole(response);
  if (text === "") {
    answered();
    return undefined as T;
  }
  const json = parsed(text);
  if (json === NOT_JSON) {
    // A page of a proxy or a network's door, which is no answer of ours.
    notAnswered(look);
    throw new Unreachable(t("api.notOurs"));
  }
  answered();
  return json as T;
}

/** A reply to its end; one that breaks off is none. */
async function whole(response: Response): Promise<string> {
  try {
    return await response.text();
  } catch (failure) {
    if (failure instanceof DOMException && failure.name === "AbortError") throw failure;
    notAnswered(look);
    throw new Unreachable();
  }
}

/**
 * What a code of the server says.
 *
 * @param key - of the words for it, which only other languages than English have
 * @param values - what the server told with it; numbers and texts fill the places of those names
 * @param sentence - the same as the server says it
 */
export function saidBy(key: string, values: Record<string, unknown>, sentence: string): string {
  if (!hasWords(key)) return sentence;
  const told = Object.entries(values).filter(([, value]) => typeof value === "string" || typeof value === "number");
  const pieces = piecesOf(key, Object.fromEntries(told) as Record<string, string | number>);
  // The same code may be told of with less; a sentence with a hole in it is none.
  return pieces.some((piece) => "place" in piece)
    ? sentence
    : pieces.map((piece) => ("words" in piece ? piece.words : "")).join("");
}

/** The steps to an answer as one sentence. */
export function stepsSaid(steps: Schemas["StepReply"][]): string {
  return steps.map((step) => saidBy(`step.${step.code}`, step.values, step.said)).join(" → ");
}

/** What a finding says; {@code inForm} names the form that it is in. */
export function findingSaid(finding: Schemas["FindingReply"], inForm = false): string {
  const said = saidBy(`finding.${finding.code}`, finding.values, finding.sentence);
  return inForm ? t("checks.inForm", { form: finding.form }) + said : said;
}

/** What findings say, one after the other. */
export function findingsSaid(findings: Schemas["FindingReply"][]): string {
  return findings.map((one) => findingSaid(one)).join(" ");
}

/** What the mend of a finding does. */
export function mendSaid(finding: Schemas["FindingReply"]): string {
  return saidBy(`mend.${finding.code}`, finding.values, finding.mend ?? "");
}

const NOT_JSON = Symbol("not JSON");

function parsed(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return NOT_JSON;
  }
}

async function refusal(response: Response, path: string): Promise<Refused> {
  const body = await whole(response);
  let problem: Record<string, unknown> = {};
  const told = response.headers.get("Content-Type")?.includes("json") ? parsed(body) : NOT_JSON;
  if (typeof told === "object" && told !== null) problem = told as Record<string, unknown>;
  if (AWAY.includes(response.status) && problem.code !== "busy") {
    notAnswered(look);
  } else {
    answered();
  }
  if (response.status === 401 && path !== "/api/session") {
    onSignedOut();
  }
  const sentence =
    typeof problem.detail === "string" ? problem.detail : t("api.noReason", { status: String(response.status) });
  return new Refused(response.status, String(problem.code ?? "unforeseen"), sentence, problem);
}

/** The sentence to show for something that went wrong: in the words of the interface where it has some for the code, else as the server says it. */
export function sentenceOf(failure: unknown): string {
  if (failure instanceof Refused) {
    const said = saidBy(`refusal.${failure.code}`, failure.details, failure.message);
    const { blockers } = failure.details;
    return said !== failure.message && Array.isArray(blockers)
      ? `${said} ${findingsSaid(blockers as Schemas["FindingReply"][])}`
      : said;
  }
  return failure instanceof Error ? failure.message : String(failure);
}
