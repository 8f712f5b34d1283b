import { useReducer } from "react";
import { within, type Box } from "./places";

interface State {
  boxes: Box[];
  /** Index of the box that is worked on, -1 for none. */
  chosen: number;
  before: Box[][];
  after: Box[][];
}

type Action =
  | { do: "choose"; index: number }
  /** Goes on with the change under way when `goesOn`, so that a drag is undone as one. */
  | { do: "set"; index: number; box: Box; goesOn: boolean }
  | { do: "add"; box: Box }
  | { do: "remove"; index: number }
  | { do: "undo" | "redo" };

const MOST_UNDONE = 200;

/** The boxes on a picture while they are being marked, with undo. */
export function useBoxes(initial: Box[], width: number, height: number) {
  const [state, tell] = useReducer((state: State, action: Action) => next(state, action, width, height), {
    boxes: initial,
    chosen: -1,
    before: [],
    after: [],
  });
  return { ...state, tell };
}

export function next(state: State, action: Action, width: number, height: number): State {
  const changed = (boxes: Box[], chosen: number, goesOn = false): State => ({
    boxes,
    chosen,
    before: goesOn ? state.before : [...state.before, state.boxes].slice(-MOST_UNDONE),
    after: [],
  });
  switch (action.do) {
    case "choose":
      return { ...state, chosen: action.index };
    case "set":
      return changed(
        state.boxes.map((box, at) => (at === action.index ? within(action.box, width, height) : box)),
        action.index,
        action.goesOn,
      );
    case "add":
      return changed([...state.boxes, within(action.box, width, height)], state.boxes.length);
    case "remove":
      return changed(
        state.boxes.filter((_, at) => at !== action.index),
        Math.min(action.index, state.boxes.length - 2),
      );
    case "undo": {
      const last = state.before.at(-1);
      if (!last) return state;
      return {
        boxes: last,
        chosen: Math.min(state.chosen, last.length - 1),
        before: state.before.slice(0, -1),
        after: [...state.after, state.boxes],
      };
    }
    case "redo": {
      const last = state.after.at(-1);
      if (!last) return state;
      return {
        boxes: last,
        chosen: Math.min(state.chosen, last.length - 1),
        before: [...state.before, state.boxes],
        after: state.after.slice(0, -1),
      };
    }
  }
}
