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
  constructor() {
    super("The server cannot be reached just now.");
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
  answered();
  const text = await response.text();
  return (text === "" ? undefined : JSON.parse(text)) as T;
}

async function refusal(response: Response, path: string): Promise<Refused> {
  const body = await response.text();
  let problem: Record<string, unknown> = {};
  if (response.headers.get("Content-Type")?.includes("json")) {
    problem = JSON.parse(body) as Record<string, unknown>;
  }
  if (AWAY.includes(response.status) && problem.code !== "busy") {
    notAnswered(look);
  } else {
    answered();
  }
  if (response.status === 401 && path !== "/api/session") {
    onSignedOut();
  }
  const sentence =
    typeof problem.detail === "string" ? problem.detail : `The server answered with ${response.status} and no reason.`;
  return new Refused(response.status, String(problem.code ?? "unforeseen"), sentence, problem);
}

/** The sentence to show for something that went wrong. */
export function sentenceOf(failure: unknown): string {
  return failure instanceof Error ? failure.message : String(failure);
}
