import { screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it, vi } from "vitest";
import { show } from "../../test/builders";
import { NotComeIn } from "./NotComeIn";

describe("files that did not come in", () => {
  it("lets somebody say how a file is read that the server keeps", async () => {
    const onTake = vi.fn();
    const refused = [
      { file: "deck.csv", why: "deck.csv:2:1: found an open quote.", kept: true },
      { file: "huge.csv", why: "huge.csv is too large." },
    ];
    show(<NotComeIn refused={refused} onTake={onTake} onClose={() => undefined} />);
    expect(screen.getAllByRole("button", { name: "How it was read" })).toHaveLength(1);
    await userEvent.click(screen.getByRole("button", { name: "How it was read" }));
    expect(onTake).toHaveBeenCalledWith("deck.csv");
  });
});
