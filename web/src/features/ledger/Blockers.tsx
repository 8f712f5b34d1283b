import { saidBy } from "../../api/client";
import type { Draft } from "../../text/draft";
import { useCheck } from "../../text/useCheck";

const NONE = {};

interface Props {
  entry: number;
  language: string;
  draft: Draft;
}

/** What keeps the text that is being typed from being used, in words under it. */
export function Blockers({ entry, language, draft }: Props) {
  const check = useCheck(entry, language, NONE, draft);
  const blockers = check.data?.findings.filter((finding) => finding.severity === "blocker") ?? [];
  return blockers.length === 0 ? null : (
    <ul className="blockers">
      {blockers.map((finding, at) => (
        <li key={at}>{saidBy(`finding.${finding.code}`, {}, finding.sentence)}</li>
      ))}
    </ul>
  );
}
