import { act, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it, vi } from "vitest";
import { aRow, show } from "../../test/builders";
import type { EditEnd } from "../../sheet/ending";
import { Draft } from "../../text/draft";
import { RowStore } from "../../sheet/rowStore";
import type { Forms } from "../../text/shapes";
import { aSheet } from "./sheet.builders";
import { SheetProvider } from "./sheetModel";
import { SpreadRow } from "./SpreadRow";

describe("a row of the spread", () => {
  it("keeps the letters typed before it has arrived", async () => {
    let arrive: (reply: Response) => void = () => undefined;
    // Nothing but the row ever arrives here.
    vi.stubGlobal(
      "fetch",
      (path: string) =>
        new Promise<Response>((resolve) => {
          if (path.startsWith("/api/rows")) arrive = resolve;
        }),
    );
    const store = new RowStore(["de"], vi.fn());
    const onEnd = vi.fn<(forms: Forms, end: EditEnd) => void>();
    store.ensure(Float64Array.of(7), 0, 1);
    show(
      <SheetProvider value={aSheet({ store })}>
        <SpreadRow
          id={7}
          index={0}
          cursor={0}
          chosenFrom={0}
          chosenTo={-1}
          columns={{ template: undefined, spots: null, width: undefined, shown: [0] }}
          editing={{
            entry: 7,
            language: "de",
            id: "1",
            seen: { version: undefined, after: null },
            initial: {},
            draft: new Draft({ other: "R" }),
            amends: null,
          }}
          hands={{ onPoint: vi.fn(), onOpen: vi.fn(), onEnd, onTake: vi.fn() }}
        />
      </SheetProvider>,
    );
    await userEvent.keyboard("ampe");
    await act(async () => {
      arrive(new Response(JSON.stringify([aRow({ id: 7, key: "ramp.up" })])));
      await store.loaded(7);
    });
    expect(screen.getByText("ramp.up")).toBeInTheDocument();
    await userEvent.keyboard(" oben{Enter}");
    expect(onEnd).toHaveBeenCalledExactlyOnceWith({ other: "Rampe oben" }, "put-forward");
  });
});
