import type { Schemas } from "../api/client";
import type { Range } from "./guarding";

/** A place of a text where something was found. */
export interface Spot extends Range {
  blocks: boolean;
}

/** A run of a text between two places where something begins or ends to be found. */
export interface Run {
  text: string;
  /** Null for a run without a finding; what blocks goes before what is only to be minded. */
  found: "blocker" | "warning" | null;
}

/** The places in one form of a text. What was found in no place of it is left out. */
export function spotsIn(findings: Schemas["FindingReply"][], form: string): Spot[] {
  return findings
    .filter((finding) => finding.form === form && finding.start >= 0 && finding.end > finding.start)
    .map(({ start, end, severity }) => ({ start, end, blocks: severity === "blocker" }));
}

/** Cuts a text where spots begin and end; joined again the runs are the text. Spots may overlap and reach beyond the text. */
export function runs(text: string, spots: Spot[]): Run[] {
  const cuts = new Set([0, text.length]);
  for (const { start, end } of spots) {
    if (start < text.length) cuts.add(start).add(Math.min(end, text.length));
  }
  const at = [...cuts].sort((a, b) => a - b);
  return at.slice(1).map((end, n) => {
    const start = at[n] ?? 0;
    const here = spots.filter((spot) => spot.start <= start && spot.end >= end);
    return {
      text: text.slice(start, end),
      found: here.some((spot) => spot.blocks) ? "blocker" : here.length > 0 ? "warning" : null,
    };
  });
}
