import { useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import { undoing } from "../sheet/undoing";
import { outbox } from "../sheet/outbox/outbox";

/** Gives the outbox and the undo stack to whoever is signed in, and counts again when a change arrives, whichever screen is open by then. */
export function useOutbox(person: number): void {
  const queries = useQueryClient();
  useEffect(() => {
    undoing.belongTo(person);
    outbox.belongTo(person);
  }, [person]);
  useEffect(
    () =>
      outbox.onCell((entry, language, cell, changed) => {
        if (!cell || !changed) return;
        void queries.invalidateQueries({ queryKey: ["tables"] });
        void queries.invalidateQueries({ queryKey: ["story", entry, language] });
      }),
    [queries],
  );
}
