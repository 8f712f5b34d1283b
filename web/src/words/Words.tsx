import { Fragment, type ReactNode } from "react";
import { piecesOf, type Values, type WordKey } from "./words";

interface Props {
  of: WordKey;
  /** What fills places with words. */
  values?: Values;
  /** What stands in the other places, by their names. */
  slots: Record<string, ReactNode>;
}

/** A whole sentence with things to use in it, so that every language may put them where they belong. */
export function Words({ of, values, slots }: Props) {
  return piecesOf(of, values).map((piece, at) => (
    <Fragment key={at}>{"words" in piece ? piece.words : slots[piece.place]}</Fragment>
  ));
}
