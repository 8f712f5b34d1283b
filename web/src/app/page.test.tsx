import { screen } from "@testing-library/react";
import { Suspense } from "react";
import { describe, expect, it } from "vitest";
import { show } from "../test/builders";
import { page } from "./page";

describe("a screen that is fetched when it is opened", () => {
  it("is shown once it has come", async () => {
    const Deck = page(() => Promise.resolve(({ n }: { n: number }) => <p>Deck {n}</p>));
    show(
      <Suspense fallback={null}>
        <Deck n={5} />
      </Suspense>,
    );
    expect(await screen.findByText("Deck 5")).toBeInTheDocument();
  });

  it("says that it did not come, and what to do", async () => {
    const Gone = page(() => Promise.reject(new Error("404")));
    show(
      <Suspense fallback={null}>
        <Gone />
      </Suspense>,
    );
    expect(await screen.findByRole("alert")).toHaveTextContent("This page could not be fetched");
    expect(screen.getByRole("button", { name: "Try again" })).toBeInTheDocument();
  });
});
