import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { waiting } from "./waiting";

describe("what waits for the server", () => {
  beforeEach(() => vi.useFakeTimers());
  afterEach(() => {
    waiting.clear();
    vi.useRealTimers();
  });

  it("is tried again, less and less often, until it is done", async () => {
    let up = false;
    const attempt = vi.fn(() => Promise.resolve(up ? ("done" as const) : ("again" as const)));
    waiting.add("7 de", attempt);
    await vi.advanceTimersByTimeAsync(7_500);
    const before = attempt.mock.calls.length;
    expect(before).toBeGreaterThanOrEqual(2);
    expect(before).toBeLessThan(5);
    up = true;
    await vi.advanceTimersByTimeAsync(15_000);
    expect(waiting.size).toBe(0);
    await vi.advanceTimersByTimeAsync(60_000);
    expect(attempt.mock.calls.length).toBe(before + 1);
  });

  it("is tried at once when the browser is connected again, and the next only after the first", async () => {
    const order: string[] = [];
    for (const name of ["1 de", "2 de"]) {
      waiting.add(name, () => {
        order.push(name);
        return Promise.resolve(name === "1 de" && order.length < 2 ? "again" : "done");
      });
    }
    window.dispatchEvent(new Event("online"));
    await vi.advanceTimersByTimeAsync(0);
    expect(order).toEqual(["1 de"]);
    window.dispatchEvent(new Event("online"));
    await vi.advanceTimersByTimeAsync(0);
    expect(order).toEqual(["1 de", "1 de", "2 de"]);
    expect(waiting.size).toBe(0);
  });
});
