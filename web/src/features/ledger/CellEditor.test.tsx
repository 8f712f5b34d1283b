import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it, vi } from "vitest";
import { CellEditor, Draft, type EditEnd } from "./CellEditor";

function open(part: Partial<Parameters<typeof CellEditor>[0]> = {}) {
  const onEnd = vi.fn<(text: string, end: EditEnd) => void>();
  render(
    <CellEditor
      draft={new Draft("Rampe")}
      selected={false}
      label="ramp in German"
      language="de"
      rightToLeft={false}
      limit={0}
      onEnd={onEnd}
      {...part}
    />,
  );
  return { onEnd, field: screen.getByRole("textbox", { name: "ramp in German" }) };
}

describe("the editor of a cell", () => {
  it("goes on after the text, and Enter puts it forward", async () => {
    const { onEnd, field } = open();
    expect(field).toHaveFocus();
    await userEvent.type(field, " oben{Enter}");
    expect(onEnd).toHaveBeenCalledExactlyOnceWith("Rampe oben", "put-forward");
  });

  it("makes a new line with Shift+Enter", async () => {
    const { onEnd, field } = open();
    await userEvent.type(field, "{Shift>}{Enter}{/Shift}oben{Tab}");
    expect(onEnd).toHaveBeenCalledExactlyOnceWith("Rampe\noben", "next");
  });

  it("leaves with Escape, once, although the field then loses the focus", async () => {
    const { onEnd, field } = open();
    await userEvent.type(field, "{Escape}");
    fireEvent.blur(field);
    expect(onEnd).toHaveBeenCalledExactlyOnceWith("Rampe", "leave");
  });

  it("leaves Enter to an input method that is composing", () => {
    const { onEnd, field } = open({ draft: new Draft("ランプ") });
    fireEvent.keyDown(field, { key: "Enter", isComposing: true });
    expect(onEnd).not.toHaveBeenCalled();
  });

  it("counts characters as people do, and shows when there are too many", async () => {
    const { field } = open({ draft: new Draft("船🚢"), limit: 3 });
    expect(screen.getByLabelText("2 of 3 characters")).not.toHaveClass("over");
    await userEvent.type(field, "ab");
    expect(screen.getByLabelText("4 of 3 characters")).toHaveClass("over");
  });

  it("goes on with what was typed when its field is drawn anew", async () => {
    const draft = new Draft("R");
    await userEvent.type(open({ draft }).field, "ampe");
    cleanup();
    const { onEnd, field } = open({ draft });
    await userEvent.type(field, " oben{Enter}");
    expect(onEnd).toHaveBeenCalledExactlyOnceWith("Rampe oben", "put-forward");
  });

  it("runs right to left where the language does", () => {
    const { field } = open({ language: "ar", rightToLeft: true });
    expect(field).toHaveAttribute("dir", "rtl");
    expect(field).toHaveAttribute("lang", "ar");
  });
});
