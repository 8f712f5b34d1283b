import type { ComponentProps } from "react";
import { findingSaid } from "../../api/client";
import { CellEditor } from "../../sheet/CellEditor";
import { useCheck } from "../../text/useCheck";

const NONE = {};

interface Props extends Omit<ComponentProps<typeof CellEditor>, "spots"> {
  entry: number;
}

/** The editor of a cell with what the checks find in the text as it is typed: lines under the places, and what keeps it from being used in words. */
export function CheckedEditor({ entry, ...editor }: Props) {
  const check = useCheck(entry, editor.language, NONE, editor.draft);
  const blockers = check.data?.findings.filter((finding) => finding.severity === "blocker") ?? [];
  return (
    <>
      <CellEditor {...editor} spots={check.spots} />
      {blockers.length > 0 && (
        <ul className="blockers">
          {blockers.map((finding, at) => (
            <li key={at}>{findingSaid(finding)}</li>
          ))}
        </ul>
      )}
    </>
  );
}
