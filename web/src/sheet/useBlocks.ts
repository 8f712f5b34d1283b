import { useCallback, useState } from "react";
import { sentenceOf, type Schemas } from "../api/client";
import { t } from "../words/words";
import { formsShown } from "./cellShown";
import { readBlock, writeBlock, writeForms } from "./clipboard";
import type { Entries } from "./entries";
import { planOf, takesText, toSend, type Plan } from "./pasting";
import type { CellView, Row, RowStore } from "./rowStore";
import { languagesIn, laidOut, placesIn, sizeOf, type Block } from "./selection";
import { SOURCE } from "./keyboard";
import { formsOf, MAIN, type Forms } from "../text/shapes";
import type { CellChanges } from "./useCellChanges";

/** The server takes as many cells in one change. */
const MOST = 20_000;

/** What can be done to every chosen cell that it fits. */
export type BlockAction = "PUT_FORWARD" | "SETTLE" | "STILL_HOLDS" | "CLEAR";

interface Options {
  entries: Entries;
  store: RowStore;
  languages: Schemas["LanguageReply"][];
  keptBy: Map<string, Set<string>>;
  block: Block;
  changes: CellChanges;
  onSay: (sentence: string) => void;
}

export interface Blocks {
  /** What a paste or a fill would do, while it waits for a yes. */
  plan: { plan: Plan; filling: boolean } | null;
  /** What is under way, empty for nothing. */
  busy: string;
  copy(clipboard: DataTransfer | null): void;
  paste(text: string): Promise<void>;
  fill(): Promise<void>;
  carryOut(action: "PENCIL" | "PUT_FORWARD"): Promise<void>;
  leavePlan(): void;
  act(action: BlockAction): Promise<void>;
}

/** Whether an action has something to do in a cell. */
export function fits(action: BlockAction, cell: CellView | undefined): boolean {
  switch (action) {
    case "PUT_FORWARD":
      return cell?.state === "pencilled";
    case "SETTLE":
      return cell?.state === "offered";
    case "STILL_HOLDS":
      return cell?.state === "stale";
    case "CLEAR":
      return cell?.text !== undefined;
  }
}

/** Copying, pasting, filling and answering a block of cells; rows that were never seen are read first. */
export function useBlocks({ entries, store, languages, keptBy, block, changes, onSay }: Options): Blocks {
  const [plan, setPlan] = useState<Blocks["plan"]>(null);
  const [busy, setBusy] = useState("");

  const load = useCallback(
    async (top: number, bottom: number): Promise<boolean> => {
      setBusy(t("select.loading"));
      const here = await store.load([...entries.ids.subarray(top, bottom + 1)]);
      setBusy("");
      return here;
    },
    [entries, store],
  );
  const allowed = useCallback(
    (n: number): boolean => {
      if (n > MOST) onSay(t("select.tooMany", { n, limit: MOST }));
      return n <= MOST;
    },
    [onSay],
  );

  const texts = useCallback(
    () =>
      Array.from({ length: block.bottom - block.top + 1 }, (_, down) => {
        const id = entries.ids[block.top + down] ?? 0;
        const row = store.row(id);
        const written = (forms: Forms) => (row?.shape === "asset" ? (forms[MAIN] ?? "") : writeForms(forms));
        const source = block.left === SOURCE && row ? [written(formsOf(row.source, row.sourceForms))] : [];
        return [
          ...source,
          ...languagesIn(block, languages).map(({ language }) =>
            written(formsShown(store.cell(id, language.tag), store.pending(id, language.tag))),
          ),
        ];
      }),
    [block, languages, entries, store],
  );

  const copy = useCallback(
    (clipboard: DataTransfer | null) => {
      const n = sizeOf(block);
      const said = () => onSay(t("select.copied", { n }));
      const ids = entries.ids.subarray(block.top, block.bottom + 1);
      if (clipboard && ids.every((id) => store.row(id))) {
        clipboard.setData("text/plain", writeBlock(texts()));
        said();
      } else if (allowed(n)) {
        // The browser waits for nobody while it copies; what is read first goes into the clipboard afterwards.
        load(block.top, block.bottom)
          .then((here) => (here ? navigator.clipboard.writeText(writeBlock(texts())).then(said) : undefined))
          .catch(() => onSay(t("select.cannotCopy")));
      }
    },
    [block, entries, store, texts, load, allowed, onSay],
  );

  const put = useCallback(
    async (pasted: string[][], into: Block, filling: boolean) => {
      const { puts, beyond } = laidOut(pasted, into, entries.size, languages.length);
      if (!allowed(puts.length)) return;
      const bottom = puts.at(-1)?.place.row ?? into.bottom;
      if (await load(into.top, bottom)) {
        setPlan({ plan: planOf(puts, beyond, entries, store, languages, keptBy), filling });
      }
    },
    [entries, languages, store, keptBy, load, allowed],
  );
  const paste = useCallback((text: string) => put(readBlock(text), block, false), [put, block]);
  const fill = useCallback(async () => {
    if (block.top === block.bottom || !allowed(sizeOf(block)) || !(await load(block.top, block.top))) return;
    const first = texts()[0] ?? [];
    const below = { ...block, top: block.top + 1 };
    await put(
      Array.from({ length: block.bottom - block.top }, () => first),
      below,
      true,
    );
  }, [block, texts, put, load, allowed]);

  const send = useCallback(
    async (action: Schemas["ManyChanges"]["action"], cells: Schemas["One"][], how?: "PASTED") => {
      setBusy(t("select.saving", { n: cells.length }));
      try {
        const done = await changes.many(action, cells, how);
        const why = done.refused[0]?.sentence ?? "";
        const refused = done.refusedInAll > 0 ? ` ${t("select.refused", { n: done.refusedInAll, why })}` : "";
        onSay((done.changed > 0 ? t("select.done", { n: done.changed }) : "") + refused);
      } catch (failure) {
        onSay(sentenceOf(failure));
      } finally {
        setBusy("");
      }
    },
    [changes, onSay],
  );
  const carryOut = useCallback(
    async (action: "PENCIL" | "PUT_FORWARD") => {
      const cells = plan?.plan.changes.map(toSend) ?? [];
      setPlan(null);
      await send(action, cells, "PASTED");
    },
    [plan, send],
  );
  const act = useCallback(
    async (action: BlockAction) => {
      if (!allowed(sizeOf(block)) || !(await load(block.top, block.bottom))) return;
      const cells: Schemas["One"][] = [];
      for (const { row, column } of placesIn(block)) {
        const entry = entries.ids[row] ?? 0;
        const tag = languages[column]?.language.tag ?? "";
        const cell = store.cell(entry, tag);
        if (cell && fits(action, cell) && takesText(store.row(entry) as Row, tag, keptBy)) {
          const text = action === "PUT_FORWARD" ? (cell.forms ? { forms: cell.forms } : { text: cell.text }) : {};
          cells.push({ entry, language: tag, version: cell.version, ...text });
        }
      }
      if (cells.length === 0) onSay(t("select.nothing"));
      else await send(action, cells);
    },
    [block, entries, languages, store, keptBy, load, send, allowed, onSay],
  );
  const leavePlan = useCallback(() => setPlan(null), []);
  return { plan, busy, copy, paste, fill, carryOut, leavePlan, act };
}
