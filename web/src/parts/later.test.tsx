import { act, screen } from "@testing-library/react";
import { Suspense, useState, type ReactElement } from "react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it, vi } from "vitest";
import { show } from "../test/builders";
import { Broken, later, page } from "./later";

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
    expect(await screen.findByRole("alert")).toHaveTextContent("This page could not be loaded");
    expect(screen.getByRole("button", { name: "Try again" })).toBeInTheDocument();
  });

  it("is fetched again when one asks, and is there then", async () => {
    let times = 0;
    const Deck = page(() => (times++ === 0 ? Promise.reject(new Error("404")) : Promise.resolve(() => <p>Deck</p>)));
    show(<Deck />);
    await userEvent.click(await screen.findByRole("button", { name: "Try again" }));
    expect(await screen.findByText("Deck")).toBeInTheDocument();
  });
});

describe("a dialog that is fetched when it is opened", () => {
  it("keeps what is typed meanwhile from what is below, and gives the focus back to that", async () => {
    let come: (dialog: () => ReactElement) => void = () => undefined;
    const Sure = later(() => new Promise<() => ReactElement>((resolve) => (come = resolve)));
    const typed = vi.fn();
    function Below() {
      const [open, setOpen] = useState(false);
      return (
        <>
          <button type="button" onClick={() => setOpen(true)} onKeyDown={typed}>
            Open
          </button>
          {open && <Sure />}
        </>
      );
    }
    show(<Below />);
    await userEvent.click(screen.getByRole("button", { name: "Open" }));
    await userEvent.keyboard("abc");
    expect(typed).not.toHaveBeenCalled();
    await act(async () => {
      come(() => <p>Sure?</p>);
      await Promise.resolve();
    });
    expect(await screen.findByText("Sure?")).toBeInTheDocument();
    expect(screen.getByRole("button", { name: "Open" })).toHaveFocus();
  });
});

describe("a screen that breaks", () => {
  it("says so beside everything else, and can be looked at again", async () => {
    let broken = true;
    const Screen = () => {
      if (broken) throw new Error("no such deck");
      return <p>Deck</p>;
    };
    vi.spyOn(console, "error").mockImplementation(() => undefined);
    const again = vi.fn(() => {
      broken = false;
    });
    show(
      <>
        <p>The rest</p>
        <Broken words="It broke." onAgain={again}>
          <Screen />
        </Broken>
      </>,
    );
    expect(screen.getByRole("alert")).toHaveTextContent("It broke.What went wrong: no such deck");
    expect(screen.getByText("The rest")).toBeInTheDocument();
    await userEvent.click(screen.getByRole("button", { name: "Try again" }));
    expect(again).toHaveBeenCalledOnce();
    expect(screen.getByText("Deck")).toBeInTheDocument();
  });
});
