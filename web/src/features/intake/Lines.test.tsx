import { screen, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it, vi } from "vitest";
import { show } from "../../test/builders";
import { LineShown } from "./LineShown";
import { Lines } from "./Lines";
import type { Group, Line } from "./useIntake";

function line(part: Partial<Line>): Line {
  return { n: 0, key: "up", choice: "TAKE", stale: [], texts: 0, ...part };
}

function group(kind: Group["kind"], choices: Line["choice"][], lines: Line[]): Group {
  return {
    kind,
    count: lines.length,
    chosen: { [lines[0]?.choice ?? "KEEP"]: lines.length },
    choices,
    usual: "TAKE",
    lines,
  };
}

function shown(of: Group): HTMLElement[] {
  show(
    <>
      {of.lines.map((one) => (
        <div key={one.n} data-testid="line">
          <LineShown group={of} line={one} busy={false} onChoose={() => undefined} />
        </div>
      ))}
    </>,
  );
  return screen.getAllByTestId("line");
}

describe("the lines of an intake", () => {
  it("show a rewritten source word by word and which languages go stale", () => {
    const [first, second] = shown(
      group(
        "SOURCES_REWRITTEN",
        ["CHANGED", "FIX", "KEEP"],
        [
          line({ before: "Ramp up", after: "Ramp fully up", choice: "CHANGED", stale: ["de", "fi"] }),
          line({ n: 1, key: "down", before: "Ramp dwon", after: "Ramp down", choice: "FIX", stale: ["de"] }),
        ],
      ),
    );
    expect(within(first as HTMLElement).getByText(/fully/).tagName).toBe("INS");
    expect(first).toHaveTextContent("goes stale in de, fi");
    expect(within(first as HTMLElement).getByRole("img")).toHaveAccessibleName("stale");
    expect(second).toHaveTextContent("1 text still holds");
  });

  it("show a conflict with its source, both texts and what becomes of it", () => {
    const [first] = shown(
      group(
        "CONFLICTS",
        ["OFFER", "TAKE", "KEEP"],
        [
          line({
            language: "ar",
            source: "Ramp",
            before: "منحدر",
            after: "المنحدر",
            choice: "OFFER",
            becomes: "offered",
          }),
        ],
      ),
    );
    expect(first).toHaveTextContent("Ramp");
    expect(within(first as HTMLElement).getByText("منحدر", { selector: ".source .words" })).toHaveAttribute(
      "dir",
      "rtl",
    );
    expect(first).toHaveTextContent("becomes an offer");
  });

  it("show the forms of a plural, and that nothing was there", () => {
    const [first] = shown(
      group(
        "TEXTS_ADDED",
        ["TAKE", "OFFER", "KEEP"],
        [
          line({
            language: "pl",
            source: "%d cars",
            afterForms: { one: "%d auto", few: "%d auta" },
            becomes: "settled",
          }),
        ],
      ),
    );
    expect(first).toHaveTextContent("nothing yet");
    expect(first).toHaveTextContent(/one.*auto.*few.*auta/);
  });

  it("ask for lines that hold some words and decide about all of them", async () => {
    const asked: string[] = [];
    vi.spyOn(globalThis, "fetch").mockImplementation((input) => {
      asked.push(String(input));
      const lines = [line({ n: 4, before: "A", after: "B", choice: "CHANGED" })];
      return Promise.resolve(Response.json({ total: 1, lines }));
    });
    const onChoose = vi.fn();
    const kind = group("SOURCES_REWRITTEN", ["CHANGED", "FIX", "KEEP"], []);
    show(<Lines intake={3} group={{ ...kind, count: 5 }} busy={false} onChoose={onChoose} />);
    const all = await screen.findByRole("group", { name: "What to do with all 5" });
    await vi.waitFor(() => expect(within(all).getByRole("button", { name: "small fix" })).toBeEnabled());
    await userEvent.click(within(all).getByRole("button", { name: "small fix" }));
    expect(onChoose).toHaveBeenLastCalledWith("FIX", undefined, "");
    await userEvent.type(screen.getByRole("textbox", { name: "Find in these" }), "ferry");
    await vi.waitFor(() => expect(asked.at(-1)).toContain("find=ferry"));
    await userEvent.click(within(all).getByRole("button", { name: "keep as is" }));
    expect(onChoose).toHaveBeenLastCalledWith("KEEP", undefined, "ferry");
  });
});

describe("a report", () => {
  it("says what was decided about a source and claims nothing about its texts", () => {
    const of = group("SOURCES_REWRITTEN", ["CHANGED", "FIX", "KEEP"], []);
    show(<LineShown group={of} line={line({ before: "A", after: "B", choice: "CHANGED" })} busy={false} />);
    expect(screen.getByText("meaning changed")).toBeInTheDocument();
    expect(screen.queryByText(/stale/)).not.toBeInTheDocument();
  });
});

describe("a choice", () => {
  it("is sent when another is pressed", async () => {
    const onChoose = vi.fn();
    show(
      <LineShown
        group={group("CONFLICTS", ["OFFER", "TAKE", "KEEP"], [])}
        line={line({ language: "de", before: "A", after: "B", choice: "OFFER", becomes: "offered" })}
        busy={false}
        onChoose={onChoose}
      />,
    );
    const choices = screen.getByRole("group", { name: "What to do with up" });
    await userEvent.click(within(choices).getByRole("button", { name: "as an offer" }));
    expect(onChoose).not.toHaveBeenCalled();
    await userEvent.click(within(choices).getByRole("button", { name: "take" }));
    expect(onChoose).toHaveBeenCalledWith("TAKE");
  });
});
