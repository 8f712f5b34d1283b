import { screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { expect, it } from "vitest";
import { show } from "../test/builders";
import { useFrameKeys } from "./useFrameKeys";

function Desk() {
  const { keys } = useFrameKeys();
  return (
    <>
      <div className="sentence">
        <button type="button">scope</button>
      </div>
      <nav className="tabs">
        <a href="/board">Board</a>
        <a href="/ledger" className="active">
          Ledger
        </a>
      </nav>
      <main className="book" tabIndex={-1}>
        <input aria-label="Find" />
        <section className="footnotes" tabIndex={-1}>
          notes
        </section>
      </main>
      {keys && <p>all keys</p>}
    </>
  );
}

it("goes round the parts of a screen, and back", async () => {
  show(<Desk />);
  const at = () => document.activeElement?.textContent;
  await userEvent.keyboard("{F6}");
  expect(at()).toBe("scope");
  await userEvent.keyboard("{F6}");
  expect(at()).toBe("Ledger");
  await userEvent.keyboard("{F6}");
  expect(document.activeElement).toHaveClass("book");
  await userEvent.keyboard("{F6}");
  expect(document.activeElement).toHaveClass("footnotes");
  await userEvent.keyboard("{F6}");
  expect(at()).toBe("scope");
  await userEvent.keyboard("{Shift>}{F6}{/Shift}");
  expect(document.activeElement).toHaveClass("footnotes");
});

it("shows all keys on a question mark that is not typed into a text", async () => {
  show(<Desk />);
  await userEvent.type(screen.getByLabelText("Find"), "why?");
  expect(screen.queryByText("all keys")).not.toBeInTheDocument();
  screen.getByText("scope").focus();
  await userEvent.keyboard("?");
  expect(screen.getByText("all keys")).toBeInTheDocument();
});
