import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it, vi } from "vitest";
import { CellEditor } from "./CellEditor";
import type { EditEnd } from "./ending";
import { Draft } from "../text/draft";
import type { Forms } from "../text/shapes";

function open(part: Partial<Parameters<typeof CellEditor>[0]> = {}) {
  const onEnd = vi.fn<(forms: Forms, end: EditEnd) => void>();
  render(
    <CellEditor
      draft={new Draft({ other: "Rampe" })}
      fields={[{ form: "other", label: "" }]}
      label="ramp in German"
      language="de"
      rightToLeft={false}
      limit={0}
      onEnd={onEnd}
      {...part}
    />,
  );
  return { onEnd, field: screen.getAllByRole("textbox")[0] as HTMLElement };
}

describe("the editor of a cell", () => {
  it("goes on after the text, and Enter puts it forward", async () => {
    const { onEnd, field } = open();
    expect(field).toHaveFocus();
    await userEvent.type(field, " oben{Enter}");
    expect(onEnd).toHaveBeenCalledExactlyOnceWith({ other: "Rampe oben" }, "put-forward");
  });

  it("makes a new line with Shift+Enter", async () => {
    const { onEnd, field } = open();
    await userEvent.type(field, "{Shift>}{Enter}{/Shift}oben{Tab}");
    expect(onEnd).toHaveBeenCalledExactlyOnceWith({ other: "Rampe\noben" }, "next");
  });

  it("leaves with Escape, once, although the field then loses the focus", async () => {
    const { onEnd, field } = open();
    await userEvent.type(field, "{Escape}");
    fireEvent.blur(field);
    expect(onEnd).toHaveBeenCalledExactlyOnceWith({ other: "Rampe" }, "leave");
  });

  it("leaves Enter to an input method that is composing", () => {
    const { onEnd, field } = open({ draft: new Draft({ other: "ランプ" }) });
    fireEvent.keyDown(field, { key: "Enter", isComposing: true });
    expect(onEnd).not.toHaveBeenCalled();
  });

  it("counts characters as people do, and shows when there are too many", async () => {
    const { field } = open({ draft: new Draft({ other: "船🚢" }), limit: 3 });
    expect(screen.getByLabelText("2 of 3 characters")).not.toHaveClass("over");
    await userEvent.type(field, "ab");
    expect(screen.getByLabelText("4 of 3 characters")).toHaveClass("over");
  });

  it("steps through the forms with Enter and puts all of them forward after the last", async () => {
    const fields = [
      { form: "one", label: "one · 1" },
      { form: "other", label: "other · 0, 2" },
    ];
    const onEnd = vi.fn<(forms: Forms, end: EditEnd) => void>();
    open({ draft: new Draft({ one: "Ticket" }), fields, onEnd });
    expect(screen.getByRole("textbox", { name: "ramp in German: one · 1" })).toHaveFocus();
    await userEvent.keyboard("{Enter}Tickets");
    expect(onEnd).not.toHaveBeenCalled();
    await userEvent.keyboard("{Enter}");
    expect(onEnd).toHaveBeenCalledExactlyOnceWith({ one: "Ticket", other: "Tickets" }, "put-forward");
  });

  it("goes on with what was typed when its field is drawn anew", async () => {
    const draft = new Draft({ other: "R" });
    await userEvent.type(open({ draft }).field, "ampe");
    cleanup();
    const { onEnd, field } = open({ draft });
    await userEvent.type(field, " oben{Enter}");
    expect(onEnd).toHaveBeenCalledExactlyOnceWith({ other: "Rampe oben" }, "put-forward");
  });

  it("runs right to left where the language does", () => {
    const { field } = open({ language: "ar", rightToLeft: true });
    expect(field).toHaveAttribute("dir", "rtl");
    expect(field).toHaveAttribute("lang", "ar");
  });
});
