import { useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { ask, sentenceOf } from "../../api/client";
import { t } from "../../words/words";
import { CODE } from "./useCode";

/** Something that was done, and how it is taken back. */
export interface Said {
  words: string;
  back?: () => Promise<unknown>;
}

/** Does one thing at a time with a list, and says what came of it. */
export function useDoing(product: string) {
  const queries = useQueryClient();
  const [busy, setBusy] = useState(false);
  // Two presses within one drawing are one.
  const going = useRef(false);
  const [said, setSaid] = useState<Said | null>(null);
  const [wrong, setWrong] = useState("");
  const again = () =>
    Promise.all([
      queries.invalidateQueries({ queryKey: [CODE, product] }),
      queries.invalidateQueries({ queryKey: ["tables"] }),
    ]);
  const carryOut = async (work: () => Promise<Said>) => {
    if (going.current) return;
    going.current = true;
    setBusy(true);
    setWrong("");
    try {
      setSaid(await work());
    } catch (failure) {
      setWrong(sentenceOf(failure));
    } finally {
      going.current = false;
      setBusy(false);
      await again();
    }
  };
  const takeBack = () => {
    const back = said?.back;
    if (back) void carryOut(() => back().then(() => ({ words: t("code.takenBack") })));
  };
  return { busy, said, wrong, carryOut, takeBack, hush: () => setSaid(null), forget: () => setWrong("") };
}

export type Doing = ReturnType<typeof useDoing>;

/** Takes a change of entries back. */
export function undoChange(change: number): Promise<unknown> {
  return ask(`/api/changes/${change}/undo`, { method: "POST" });
}
