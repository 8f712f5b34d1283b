import { fireEvent, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { Route, Routes } from "react-router";
import { beforeEach, expect, it, vi } from "vitest";
import type { Schemas } from "../../api/client";
import { show } from "../../test/builders";
import { DropOnTable } from "./DropOnTable";
import { IntakeListPage } from "./IntakeListPage";

const asked: string[] = [];
let intakes: { id: number }[];

beforeEach(() => {
  asked.length = 0;
  vi.spyOn(globalThis, "fetch").mockImplementation((input, init) => {
    const path = String(input);
    asked.push(`${init?.method ?? "GET"} ${path}`);
    if (path.includes("/api/asset-sets")) return Promise.resolve(Response.json({ id: 9 }));
    if (path.startsWith("/api/drops"))
      return Promise.resolve(Response.json({ id: 3, files: 2, intakes, refused: [], assets: 1 }));
    if (path.startsWith("/api/intakes/")) return Promise.resolve(Response.json({ id: 8, options: {} }));
    return Promise.resolve(Response.json([]));
  });
});

function drop() {
  const table = { slug: "ramp", name: "Ramp" } as unknown as Schemas["TableReply"];
  show(
    <Routes>
      <Route path="/" element={<DropOnTable table={table} />} />
      <Route path="/intake" element={<IntakeListPage />} />
      <Route path="/intake/assets/:id" element={<p>What the names say</p>} />
    </Routes>,
  );
  fireEvent.drop(document, {
    dataTransfer: { types: ["Files"], items: [], files: [new File(["x"], "a.csv"), new File(["x"], "b_en.png")] },
  });
}

it("pictures alone are named at once, for the table", async () => {
  intakes = [];
  drop();
  expect(await screen.findByText("What the names say")).toBeInTheDocument();
  expect(asked).toContain("POST /api/asset-sets?drop=3&table=ramp");
});

it("pictures among texts are not lost: they wait beside them, for the table", async () => {
  intakes = [{ id: 8 }];
  drop();
  expect(await screen.findByText("A picture or sound came along.")).toBeInTheDocument();
  await userEvent.click(screen.getByRole("button", { name: "See what their names say" }));
  expect(await screen.findByText("What the names say")).toBeInTheDocument();
  expect(asked).toContain("POST /api/asset-sets?drop=3&table=ramp");
});
