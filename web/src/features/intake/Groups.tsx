import { useEffect } from "react";
import type { Schemas } from "../../api/client";
import { loadFontsOf } from "../../theme/fonts";
import { t } from "../../words/words";
import { DiffShown, TextShown } from "../ledger/TextShown";
import { wordDiff } from "../ledger/wordDiff";

/** The lines of one kind of change: what stands in the record at the left, what the file says at the right. */
export function Groups({ group }: { group: Schemas["Group"] }) {
  useEffect(() => {
    for (const line of group.lines) loadFontsOf(`${line.before ?? ""}${line.after ?? ""}`);
  }, [group]);
  return (
    <>
      <ol className="changes">
        {group.lines.map((line, at) => (
          <li key={at}>
            <div className="remark">
              <span className="key">{line.key}</span>
              {line.language && <span>{line.language}</span>}
              {line.becomes && (
                <span className={`becomes ${line.becomes}`}>{t(`becomes.${line.becomes as "settled"}`)}</span>
              )}
            </div>
            <div className="words" lang={line.language} dir="auto">
              {line.before !== undefined && line.after !== undefined ? (
                <DiffShown runs={wordDiff(line.before, line.after)} />
              ) : (
                <TextShown text={line.after ?? line.before ?? ""} />
              )}
            </div>
          </li>
        ))}
      </ol>
      {group.count > group.lines.length && (
        <p className="soft more">{t("intake.firstOf", { shown: group.lines.length, n: group.count })}</p>
      )}
    </>
  );
}
