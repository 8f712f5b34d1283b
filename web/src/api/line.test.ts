import { afterEach, describe, expect, it, vi } from "vitest";
import { answered, lineIsUp, notAnswered, subscribeToLine } from "./line";

describe("the line to the server", () => {
  afterEach(() => {
    answered();
    vi.useRealTimers();
  });

  it("is looked at now and then while nobody answers, and told once when it is up again", async () => {
    vi.useFakeTimers();
    const told: boolean[] = [];
    const leave = subscribeToLine((up) => told.push(up));
    const look = vi.fn(() => Promise.reject(new Error("still away")));
    notAnswered(look);
    notAnswered(look);
    expect(lineIsUp()).toBe(false);
    await vi.advanceTimersByTimeAsync(6_100);
    expect(look).toHaveBeenCalledTimes(3);
    answered();
    answered();
    await vi.advanceTimersByTimeAsync(10_000);
    expect(look).toHaveBeenCalledTimes(3);
    expect(told).toEqual([false, true]);
    leave();
  });
});
