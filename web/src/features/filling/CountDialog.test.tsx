import { screen } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { aLanguage, show } from "../../test/builders";
import { refusal, serve } from "../../test/server";
import { CountDialog } from "./CountDialog";

const band = (name: string, entries: number) => ({ band: name, entries, words: entries * 3, characters: entries * 10 });

describe("counting the work of a scope", () => {
  it("adds up the parts in which a large scope is counted", async () => {
    serve({
      "GET /api/fill/counts": (path: string) =>
        path.includes("first=0")
          ? { bands: [band("NEW", 1000), band("TWICE", 2)], looked: 5000, of: 6000, next: 5000 }
          : { bands: [band("NEW", 34), band("ELSEWHERE", 1)], looked: 1000, of: 6000 },
    });
    show(<CountDialog scope="table=deck" languages={[aLanguage("de", "German")]} onClose={() => undefined} />);
    expect(await screen.findByRole("row", { name: "new 1,034 3,102 10,340" })).toBeInTheDocument();
    expect(screen.getByRole("row", { name: "All 1,037 3,111 10,370" })).toBeInTheDocument();
    const csv = decodeURIComponent((await screen.findByRole("link", { name: "As CSV" })).getAttribute("href") ?? "");
    expect(csv).toContain('"settled word for word elsewhere","1","3","10"');
  });

  it("says why it cannot count", async () => {
    serve({ "GET /api/fill/counts": refusal(503, "memory-not-ready", "The memory is still being read.") });
    show(<CountDialog scope="" languages={[aLanguage("de", "German")]} onClose={() => undefined} />);
    expect(await screen.findByText("The memory is still being read.")).toBeInTheDocument();
  });
});
