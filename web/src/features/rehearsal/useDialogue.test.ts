import { act, renderHook } from "@testing-library/react";
import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { useDialogue } from "./useDialogue";

beforeEach(() => {
  vi.useFakeTimers();
});
afterEach(() => {
  vi.useRealTimers();
});

it("shows each turn as long as it stays and stops at the last", () => {
  const { result } = renderHook(() => useDialogue({ stays: [2, 3], first: 0 }, 1));
  expect(result.current).toMatchObject({ turns: 2, turn: 0, running: false, stays: 2 });
  act(() => result.current.run(true));
  act(() => void vi.advanceTimersByTime(1999));
  expect(result.current.turn).toBe(0);
  act(() => void vi.advanceTimersByTime(1));
  expect(result.current).toMatchObject({ turn: 1, running: true, stays: 3 });
  act(() => void vi.advanceTimersByTime(3000));
  expect(result.current).toMatchObject({ turn: 1, running: false });
  act(() => result.current.run(true));
  expect(result.current).toMatchObject({ turn: 0, running: true });
});

it("goes to a turn by hand and not beyond the ends", () => {
  const { result } = renderHook(() => useDialogue({ stays: [2, 3], first: 0 }, 1));
  act(() => result.current.go(5));
  expect(result.current.turn).toBe(1);
  act(() => result.current.go(-1));
  expect(result.current.turn).toBe(0);
});

it("has no turn where nothing is seen for a while only", () => {
  expect(renderHook(() => useDialogue({ stays: [], first: 0 }, 1)).result.current.turn).toBeNull();
});
