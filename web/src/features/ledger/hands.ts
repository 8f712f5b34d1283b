import type { EditEnd } from "../../sheet/ending";
import type { Forms } from "../../text/shapes";

/** What the hands do in a row; the same object for all of them. */
export interface Hands {
  onPoint: (index: number, column: number, extend: boolean) => void;
  onOpen: () => void;
  onEnd: (forms: Forms, end: EditEnd) => void;
  onTake: (letter: string) => boolean;
}
