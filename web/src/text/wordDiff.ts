import { pieces } from "./pieces";

/** A run of words that two texts share, or that only one of them has. */
export interface DiffRun {
  kind: "same" | "gone" | "new";
  text: string;
}

const LARGEST = 400;

/**
 * Word-level difference of two texts by their longest common subsequence. Cost: product of the word counts; texts of more than 400 words are
 * shown as replaced whole.
 */
export function wordDiff(before: string, after: string): DiffRun[] {
  const a = words(before);
  const b = words(after);
  if (a.length > LARGEST || b.length > LARGEST) {
    return [
      { kind: "gone", text: before },
      { kind: "new", text: after },
    ];
  }
  const lengths = commonLengths(a, b);
  const runs: DiffRun[] = [];
  let i = 0;
  let j = 0;
  while (i < a.length || j < b.length) {
    if (i < a.length && j < b.length && a[i] === b[j]) {
      push(runs, "same", a[i++] ?? "");
      j++;
    } else if (j >= b.length || (i < a.length && (lengths[i + 1]?.[j] ?? 0) >= (lengths[i]?.[j + 1] ?? 0))) {
      push(runs, "gone", a[i++] ?? "");
    } else {
      push(runs, "new", b[j++] ?? "");
    }
  }
  return joined(runs);
}

/** A placeholder is one word, whatever it is spelt with: half of one means nothing. */
function words(text: string): string[] {
  const segmenter = new Intl.Segmenter(undefined, { granularity: "word" });
  return pieces(text).flatMap((piece) =>
    piece.kind === "placeholder"
      ? [piece.text]
      : Array.from(segmenter.segment(piece.text), (segment) => segment.segment),
  );
}

/** lengths[i][j]: length of the longest common subsequence of a from i and b from j. */
function commonLengths(a: string[], b: string[]): Uint16Array[] {
  const lengths = Array.from({ length: a.length + 1 }, () => new Uint16Array(b.length + 1));
  for (let i = a.length - 1; i >= 0; i--) {
    for (let j = b.length - 1; j >= 0; j--) {
      const row = lengths[i] as Uint16Array;
      const below = lengths[i + 1] as Uint16Array;
      row[j] = a[i] === b[j] ? (below[j + 1] ?? 0) + 1 : Math.max(below[j] ?? 0, row[j + 1] ?? 0);
    }
  }
  return lengths;
}

/** Changed words with only spaces between them read better as one change than as many. */
function joined(runs: DiffRun[]): DiffRun[] {
  const result: DiffRun[] = [];
  let gone = "";
  let added = "";
  const flush = () => {
    if (gone) result.push({ kind: "gone", text: gone });
    if (added) result.push({ kind: "new", text: added });
    gone = "";
    added = "";
  };
  runs.forEach((run, at) => {
    const between = run.kind === "same" && run.text.trim() === "" && gone && added && runs[at + 1];
    if (run.kind === "same" && !between) {
      flush();
      result.push(run);
      return;
    }
    if (run.kind !== "new") gone += run.text;
    if (run.kind !== "gone") added += run.text;
  });
  flush();
  return result;
}

function push(runs: DiffRun[], kind: DiffRun["kind"], text: string): void {
  const last = runs.at(-1);
  if (last?.kind === kind) last.text += text;
  else runs.push({ kind, text });
}
