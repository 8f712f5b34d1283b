import type { Schemas } from "../../api/client";
import { month } from "../../words/words";

export const WIDTH = 440;
export const HEIGHT = 190;
const LEFT = 44;
const RIGHT = 430;
const TOP = 8;
const BOTTOM = 166;
const DAY = 24 * 60 * 60 * 1000;
/** The share of the width that looks ahead. */
const AHEAD = 0.3;

export interface Chart {
  from: number;
  to: number;
  bottom: number;
  today: number;
  grid: { value: number; y: number }[];
  months: { label: string; x: number }[];
  series: { language: string; path: string; ahead: string | null }[];
}

/** Turns what was left by day into lines: time to the right with room to look ahead, amounts upward from 0. Null when there is nothing to draw. */
export function chartOf(replies: Schemas["LeftReply"][]): Chart | null {
  const days = replies.flatMap((one) => one.points.map((point) => Date.parse(point.day)));
  if (days.length === 0) return null;
  const today = Math.max(...days);
  const first = Math.min(Math.min(...days), today - 7 * DAY);
  const end = today + (AHEAD / (1 - AHEAD)) * (today - first);
  const most = Math.max(1, ...replies.flatMap((one) => one.points.map((point) => point.left)));
  const step = niceStep(most);
  const top = Math.ceil(most / step) * step;
  const x = (time: number) => LEFT + ((time - first) / (end - first)) * (RIGHT - LEFT);
  const y = (value: number) => BOTTOM - (value / top) * (BOTTOM - TOP);
  return {
    from: LEFT,
    to: RIGHT,
    bottom: BOTTOM,
    today: x(today),
    grid: Array.from({ length: top / step + 1 }, (_, i) => ({ value: i * step, y: y(i * step) })),
    months: monthsBetween(first, end).map((time) => ({ label: month(time), x: x(time) })),
    series: replies.map((one) => ({
      language: one.language,
      path: one.points.map((p, i) => `${i ? "L" : "M"}${round(x(Date.parse(p.day)))} ${round(y(p.left))}`).join(""),
      ahead: ahead(one, today, end, x, y),
    })),
  };
}

/** From what is left today straight down to nothing on the expected day, cut at the edge of the drawing. */
function ahead(
  one: Schemas["LeftReply"],
  today: number,
  end: number,
  x: (time: number) => number,
  y: (value: number) => number,
): string | null {
  const last = one.points.at(-1);
  if (!one.forecast || !last) return null;
  const expected = Date.parse(one.forecast.expected);
  const until = Math.min(expected, end);
  const leftThen = last.left * (1 - (until - today) / Math.max(DAY, expected - today));
  return `M${round(x(today))} ${round(y(last.left))}L${round(x(until))} ${round(y(Math.max(0, leftThen)))}`;
}

/** 1, 2 or 5 times a power of ten, so that there are at most five lines. */
export function niceStep(most: number): number {
  const rough = most / 4;
  const power = 10 ** Math.floor(Math.log10(Math.max(1, rough)));
  return Math.max(1, [1, 2, 5, 10].map((n) => n * power).find((step) => step >= rough) ?? 10 * power);
}

function monthsBetween(from: number, to: number): number[] {
  const starts: number[] = [];
  const at = new Date(from);
  for (let month = at.getUTCMonth() + 1; starts.length < 24; month++) {
    const start = Date.UTC(at.getUTCFullYear(), month, 1);
    if (start > to) break;
    starts.push(start);
  }
  return starts;
}

function round(n: number): number {
  return Math.round(n * 10) / 10;
}
