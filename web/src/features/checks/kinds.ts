import { hasWords } from "../../words/spoken";
import { t } from "../../words/words";

/** How much a kind of finding counts. */
export const WEIGHTS = ["stop", "mind", "off"] as const;
export type Weight = (typeof WEIGHTS)[number];

/** What a kind of finding is called; its own name where this client is older than the server. */
export function kindName(kind: string): string {
  const key = `checks.kind.${kind}`;
  return hasWords(key) ? t(key) : kind;
}

export function weightName(weight: string): string {
  const key = `checks.weight.${weight}`;
  return hasWords(key) ? t(key) : weight;
}
