import { Checkbox } from "@mui/material";
import { useState } from "react";
import { t } from "../../words/words";
import { chosenOf, toggled } from "./useCode";

/** What is chosen of the rows of a list. */
export interface Choice<Id> {
  /** The chosen ones that are shown, in their order. */
  now: Id[];
  shown: readonly Id[];
  has: (id: Id) => boolean;
  /** One more or one less; with `through`, all between the last one and this one. */
  toggle: (id: Id, through: boolean) => void;
  all: (on: boolean) => void;
  clear: () => void;
}

/** Keeps it. */
export function useChoice<Id>(shown: readonly Id[]): Choice<Id> {
  const [chosen, setChosen] = useState<ReadonlySet<Id>>(new Set());
  const [last, setLast] = useState<Id | null>(null);
  return {
    now: chosenOf(chosen, shown),
    shown,
    has: (id) => chosen.has(id),
    toggle: (id, through) => {
      setChosen(toggled(chosen, shown, id, through ? last : null));
      setLast(id);
    },
    all: (on) => setChosen(new Set(on ? shown : [])),
    clear: () => setChosen(new Set()),
  };
}

/** The box in the head of a list that chooses all its rows. */
export function ChooseAll<Id>({ choice: { now, shown, all } }: { choice: Choice<Id> }) {
  return (
    <Checkbox
      size="small"
      slotProps={{ input: { "aria-label": t("code.chooseAll") } }}
      checked={now.length > 0 && now.length === shown.length}
      indeterminate={now.length > 0 && now.length < shown.length}
      onChange={(event) => all(event.target.checked)}
    />
  );
}

/** The box of a row. */
export function ChooseOne<Id>({ choice, id, label }: { choice: Choice<Id>; id: Id; label: string }) {
  return (
    <Checkbox
      size="small"
      slotProps={{ input: { "aria-label": label } }}
      checked={choice.has(id)}
      onChange={(event) => choice.toggle(id, (event.nativeEvent as MouseEvent).shiftKey)}
    />
  );
}
