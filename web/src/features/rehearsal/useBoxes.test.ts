import { expect, it } from "vitest";
import type { Box } from "./places";
import { next } from "./useBoxes";

const box = (x: number): Box => ({
  key: "a",
  x,
  y: 0,
  width: 20,
  height: 10,
  lines: 1,
  size: 12,
  align: "start",
  color: "#000000",
  cover: "#ffffff",
  keeps: false,
  latinDigits: false,
  sample: {},
});

const EMPTY = { boxes: [], chosen: -1, before: [], after: [] };
const xs = (state: { boxes: Box[] }) => state.boxes.map(({ x }) => x);

it("undoes a drag as one change and does it again", () => {
  let state = next(EMPTY, { do: "add", box: box(5) }, 100, 100);
  expect(state.chosen).toBe(0);
  state = next(state, { do: "set", index: 0, box: box(6), goesOn: false }, 100, 100);
  state = next(state, { do: "set", index: 0, box: box(7), goesOn: true }, 100, 100);
  state = next(state, { do: "set", index: 0, box: box(900), goesOn: true }, 100, 100);
  expect(xs(state)).toEqual([80]);
  state = next(state, { do: "undo" }, 100, 100);
  expect(xs(state)).toEqual([5]);
  state = next(state, { do: "redo" }, 100, 100);
  expect(xs(state)).toEqual([80]);
  state = next(next(state, { do: "undo" }, 100, 100), { do: "undo" }, 100, 100);
  expect(xs(state)).toEqual([]);
  expect(next(state, { do: "undo" }, 100, 100)).toBe(state);
});

it("chooses the neighbour of a box that goes", () => {
  let state = next(EMPTY, { do: "add", box: box(1) }, 100, 100);
  state = next(state, { do: "add", box: box(2) }, 100, 100);
  state = next(state, { do: "remove", index: 1 }, 100, 100);
  expect([xs(state), state.chosen]).toEqual([[1], 0]);
  state = next(state, { do: "remove", index: 0 }, 100, 100);
  expect([xs(state), state.chosen]).toEqual([[], -1]);
});
