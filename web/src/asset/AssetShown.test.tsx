import { act, render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { AssetInLine, AssetLarge } from "./AssetShown";

const facts = { 7: { kind: "ogg", bytes: 9000, width: 0, height: 0, milliseconds: 2400 } };

class Heard {
  static all: Heard[] = [];
  static plays = () => Promise.resolve();
  currentTime = 0;
  duration = 2;
  onended?: () => void;
  ontimeupdate?: () => void;
  onerror?: () => void;
  paused = false;
  constructor(readonly src: string) {
    Heard.all.push(this);
  }
  play = () => Heard.plays();
  pause = () => {
    this.paused = true;
  };
}

describe("a sound", () => {
  beforeEach(() => {
    Heard.all = [];
    Heard.plays = () => Promise.resolve();
    vi.stubGlobal("Audio", Heard);
  });
  afterEach(() => vi.unstubAllGlobals());

  it("is played and stopped by its button, one at a time", async () => {
    render(
      <>
        <AssetInLine forms={{ other: "a.ogg", file: "7" }} facts={facts} />
        <AssetInLine forms={{ other: "b.ogg", file: "8" }} facts={facts} />
      </>,
    );
    expect(screen.getByText("0:02.4")).toBeInTheDocument();
    await userEvent.click(screen.getByRole("button", { name: "Play a.ogg" }));
    expect(Heard.all[0]?.src).toBe("/api/assets/7");
    await userEvent.click(screen.getByRole("button", { name: "Play b.ogg" }));
    expect(Heard.all[0]?.paused).toBe(true);
    expect(screen.getByRole("button", { name: "Play a.ogg" })).toBeInTheDocument();
    await userEvent.click(screen.getByRole("button", { name: "Stop b.ogg" }));
    expect(Heard.all[1]?.paused).toBe(true);
    expect(Heard.all).toHaveLength(2);
  });

  it("ends by itself, and one that was stopped before says no more", async () => {
    render(<AssetInLine forms={{ other: "a.ogg", file: "7" }} facts={facts} />);
    await userEvent.click(screen.getByRole("button", { name: "Play a.ogg" }));
    act(() => Heard.all[0]?.onended?.());
    await userEvent.click(screen.getByRole("button", { name: "Play a.ogg" }));
    act(() => Heard.all[0]?.onerror?.());
    expect(screen.getByRole("button", { name: "Stop a.ogg" })).toBeInTheDocument();
    await userEvent.click(screen.getByRole("button", { name: "Stop a.ogg" }));
  });

  it("is reached by the keyboard, but for the ledger's cells, which have a key of their own", () => {
    render(
      <>
        <AssetInLine forms={{ other: "cell.ogg", file: "7" }} facts={facts} />
        <AssetLarge forms={{ other: "note.ogg", file: "7" }} facts={facts} />
      </>,
    );
    expect(screen.getByRole("button", { name: "Play note.ogg" })).toHaveProperty("tabIndex", 0);
    expect(screen.getByRole("button", { name: "Play cell.ogg" })).toHaveProperty("tabIndex", -1);
  });

  it("that cannot be played says so", async () => {
    Heard.plays = () => Promise.reject(new Error("no"));
    render(<AssetInLine forms={{ other: "a.ogg", file: "7" }} facts={facts} />);
    await userEvent.click(screen.getByRole("button", { name: "Play a.ogg" }));
    expect(await screen.findByRole("alert")).toHaveTextContent("This browser cannot play it.");
  });
});

it("a picture is shown with what it is, a file of another kind by its name, and one without a file as well", () => {
  render(
    <>
      <AssetLarge
        forms={{ other: "a.png", file: "9" }}
        facts={{ 9: { kind: "png", bytes: 2048, width: 96, height: 64, milliseconds: 0 } }}
      />
      <AssetInLine forms={{ other: "b.zip", file: "10" }} facts={undefined} />
      <AssetInLine forms={{ other: "later.svg" }} facts={undefined} />
    </>,
  );
  expect(screen.getByRole("img", { name: "a.png" })).toHaveAttribute("src", "/api/assets/9");
  expect(screen.getByText("PNG · 96 × 64 · 2 KB")).toBeInTheDocument();
  expect(screen.getByText("b.zip")).toBeInTheDocument();
  expect(screen.getByText("later.svg")).toBeInTheDocument();
  expect(screen.getAllByRole("img")).toHaveLength(1);
});
