import { screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { useState } from "react";
import { expect, it } from "vitest";
import { show } from "../test/builders";
import { useFocusBack } from "./useFocusBack";

function Fields({ anew = false }: { anew?: boolean }) {
  const [turn, setTurn] = useState(0);
  const busy = turn % 2 === 1;
  const back = useFocusBack(busy);
  return (
    <>
      <div {...back}>
        <input key={anew ? turn : "one"} aria-label="Character set" disabled={busy} />
        <input aria-label="Delimiter" disabled={busy} />
      </div>
      <p onMouseDown={(event) => event.preventDefault()} onClick={() => setTurn(turn + 1)}>
        turn
      </p>
    </>
  );
}

it.each([false, true])("goes back to the field that one was in, drawn anew: %s", async (anew) => {
  show(<Fields anew={anew} />);
  await userEvent.click(screen.getByLabelText("Character set"));
  await userEvent.click(screen.getByText("turn"));
  // What a browser does to a field that is disabled.
  (document.activeElement as HTMLElement | null)?.blur();
  await userEvent.click(screen.getByText("turn"));
  expect(screen.getByLabelText("Character set")).toHaveFocus();
});

it("takes the focus from nobody who went elsewhere meanwhile", async () => {
  show(
    <>
      <Fields />
      <button type="button">Elsewhere</button>
    </>,
  );
  await userEvent.click(screen.getByLabelText("Character set"));
  await userEvent.click(screen.getByText("turn"));
  screen.getByText("Elsewhere").focus();
  await userEvent.click(screen.getByText("turn"));
  expect(screen.getByText("Elsewhere")).toHaveFocus();
});
