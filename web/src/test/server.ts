import { vi } from "vitest";

/** A request as the server saw it. */
export interface Asked {
  method: string;
  path: string;
  json: unknown;
}

type Answer = unknown;

/** A refusal with the server's sentence. */
export function refusal(status: number, code: string, detail: string): Response {
  return Response.json({ code, detail }, { status, headers: { "Content-Type": "application/problem+json" } });
}

/**
 * Stands in for the server.
 *
 * @param answers - by "METHOD /path" without its query; a function sees the whole path and may answer later; anything else is 404
 * @returns what was asked, as it is asked
 */
export function serve(answers: Record<string, Answer | ((path: string) => Answer)>): Asked[] {
  const asked: Asked[] = [];
  vi.spyOn(globalThis, "fetch").mockImplementation((input, init) => {
    const path = String(input);
    const method = init?.method ?? "GET";
    const json: unknown = typeof init?.body === "string" ? JSON.parse(init.body) : undefined;
    asked.push({ method, path, json });
    const found = answers[`${method} ${path.split("?")[0]}`];
    const answer: unknown = typeof found === "function" ? (found as (path: string) => unknown)(path) : found;
    if (answer instanceof Promise) return answer as Promise<Response>;
    if (answer instanceof Response) return Promise.resolve(answer);
    if (answer === undefined) return Promise.resolve(refusal(404, "not_found", `Nothing answers ${method} ${path}.`));
    return Promise.resolve(answer === null ? new Response("") : Response.json(answer));
  });
  return asked;
}

/** The changes among what was asked; looking at a text that is sent along changes nothing. */
export function changes(asked: Asked[]): Asked[] {
  return asked.filter((one) => one.method !== "GET" && !/\/(check|notes)$/.test(one.path));
}
