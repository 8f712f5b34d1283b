import { describe, expect, it } from "vitest";
import { chartOf, niceStep } from "./chart";

const points = (...left: number[]) =>
  left.map((n, i) => ({ day: `2026-10-${String(i + 1).padStart(2, "0")}`, left: n }));

describe("the drawing of what is left", () => {
  it("is nothing without days", () => {
    expect(chartOf([])).toBeNull();
  });

  it("runs from the first day to today, with room to look ahead, and upward from 0", () => {
    const chart = chartOf([{ language: "de", points: points(100, 80, 60, 40, 20, 10, 5, 0, 0, 0) }]);
    expect(chart?.grid.map((line) => line.value)).toEqual([0, 50, 100]);
    expect(chart?.grid[0]?.y).toBe(chart?.bottom);
    expect(chart?.today).toBeGreaterThan(chart?.from ?? 0);
    expect(chart?.today).toBeLessThan(chart?.to ?? 0);
    expect(chart?.series[0]?.path.startsWith(`M${chart?.from} `)).toBe(true);
    expect(chart?.series[0]?.ahead).toBeNull();
  });

  it("looks ahead to nothing on the expected day, and is cut at its edge", () => {
    const near = { pace: 10, expected: "2026-10-11", earliest: "2026-10-11" };
    const far = { pace: 0.1, expected: "2027-10-11", earliest: "2027-06-11" };
    const at = (forecast: typeof near) =>
      chartOf([{ language: "de", points: points(100, 90, 80, 70, 60, 50, 40, 30, 20, 10), forecast }]);
    expect(at(near)?.series[0]?.ahead).toContain(` ${at(near)?.bottom}`);
    const cut = at(far)?.series[0]?.ahead ?? "";
    expect(cut).toContain(`L${at(far)?.to} `);
    expect(cut).not.toContain(` ${at(far)?.bottom}`);
  });

  it("names the months that begin in it", () => {
    expect(chartOf([{ language: "de", points: points(...Array.from({ length: 28 }, () => 1)) }])?.months).toEqual([
      expect.objectContaining({ label: "Nov" }),
    ]);
  });

  it.each([
    [0, 1],
    [3, 1],
    [40, 10],
    [41, 20],
    [130, 50],
    [9_000, 5_000],
  ])("has at most five lines for %d", (most, step) => {
    expect(niceStep(most)).toBe(step);
  });
});
