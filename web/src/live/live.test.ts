import { expect, it, vi } from "vitest";
import { atMostEvery } from "./live";

it("reads counters once for many changes, and again for a later one", () => {
  vi.useFakeTimers();
  const read = vi.fn();
  const soon = atMostEvery(500, read);
  for (let change = 0; change < 50; change++) soon();
  expect(read).not.toHaveBeenCalled();
  vi.advanceTimersByTime(500);
  expect(read).toHaveBeenCalledTimes(1);
  soon();
  vi.advanceTimersByTime(500);
  expect(read).toHaveBeenCalledTimes(2);
  vi.useRealTimers();
});
