import { render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it, vi } from "vitest";
import { aPerson } from "../../test/builders";
import { NoRights } from "./NoRights";
import { seesAnything } from "../../session/useSession";

describe("the page of somebody without any right", () => {
  it("says who they are and whom to ask, and looks again", async () => {
    const me = aPerson({ name: "Lina Korhola", levels: {} });
    const look = vi.fn();
    render(<NoRights me={me} onLook={look} onSignOut={() => undefined} />);
    expect(screen.getByText(/signed in as Lina Korhola/)).toBeInTheDocument();
    await userEvent.click(screen.getByRole("button", { name: "Look again" }));
    expect(look).toHaveBeenCalledOnce();
  });

  it("is nobody's who may read a language or coordinates", () => {
    expect(seesAnything(aPerson({ levels: {} }))).toBe(false);
    expect(seesAnything(aPerson({ levels: { de: "reader" } }))).toBe(true);
    expect(seesAnything(aPerson({ levels: {}, coordinator: true }))).toBe(true);
  });
});
