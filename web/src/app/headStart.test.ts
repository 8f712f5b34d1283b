import { QueryClient } from "@tanstack/react-query";
import { afterEach, expect, it } from "vitest";
import { serve } from "../test/server";
import { headStart } from "./headStart";

afterEach(() => localStorage.clear());

async function asked(search: string, pathname = "/ledger"): Promise<string[]> {
  const all = serve({ "GET /api/tables": [], "GET /api/products": [], "GET /api/scope": { deltas: [], sections: [] } });
  headStart(new QueryClient(), { pathname, search });
  await Promise.resolve();
  return all.map((one) => one.path);
}

it("asks for nothing where nobody was signed in", async () => {
  expect(await asked("?table=ramp&in=de")).toEqual([]);
});

it.each([
  ["?table=ramp&in=de", "/ledger", ["/api/tables", "/api/products", "/api/scope?table=ramp&in=de"]],
  ["?table=ramp", "/ledger", ["/api/tables", "/api/products"]],
  ["?table=ramp&in=de", "/board", ["/api/tables", "/api/products"]],
])("asks for what %s of %s needs", async (search, pathname, paths) => {
  localStorage.setItem("mellow.here", "true");
  expect(await asked(search, pathname)).toEqual(paths);
});
