import { Button } from "@mui/material";
import { findingSaid, mendSaid, sentenceOf, type Schemas } from "../../api/client";
import { keysSaid } from "../../words/keys";
import { t } from "../../words/words";
import { formsShown } from "../../sheet/cellShown";
import type { FootnoteProps } from "./footnoteProps";
import { mainForm } from "../../text/shapes";
import { TermList } from "../../text/TermList";
import { useCheck } from "../../text/useCheck";

/** The wordbook's terms in the source, and what is wrong with the text as it is typed. */
export function ChecksNote({ store, entry, language, draft, onTake }: FootnoteProps) {
  const tag = language.language.tag;
  const row = store.row(entry);
  const cell = store.cell(entry, tag);
  const pending = store.pending(entry, tag);
  const standing = formsShown(cell, pending);
  const check = useCheck(entry, tag, standing, draft);
  if (check.isError) return <p className="wrong">{sentenceOf(check.error)}</p>;
  if (!check.data || !row) return <p className="soft">{t("ledger.loading")}</p>;
  const { findings, terms, message } = check.data;
  const forms = draft ? draft.all() : standing;
  const firstMend = findings.findIndex((finding) => finding.mend !== undefined);
  const length = [...mainForm(forms)].length;
  const nothing = Object.values(forms).every((text) => text === "");
  return (
    <>
      <TermList terms={terms} language={tag} />
      <div role="status" className="findings">
        {findings.map((finding, at) => (
          <p key={at} className={finding.severity === "blocker" ? "wrong" : "mind"}>
            {row.shape !== "plain" && row.shape !== "asset" && <span className="form">{finding.form}: </span>}
            {findingSaid(finding)}
            {finding.mend && (
              <Button
                size="small"
                // The editor must not be left by the press.
                onMouseDown={(event) => event.preventDefault()}
                onClick={() => onTake({ ...forms, [finding.form]: finding.mended ?? "" })}
              >
                {at === firstMend
                  ? t("checks.mendKey", { label: mendSaid(finding), key: keysSaid("Alt+M") })
                  : mendSaid(finding)}
              </Button>
            )}
          </p>
        ))}
        {findings.length === 0 && !nothing && (
          <p className="fine">
            {row.maxLength > 0 ? t("checks.fineLength", { length, limit: row.maxLength }) : t("checks.fine")}
          </p>
        )}
        {nothing && terms.length === 0 && <p className="soft">{t("checks.nothing")}</p>}
      </div>
      {message.length > 0 && <Structure message={message} />}
    </>
  );
}

/** The arguments of an ICU message with their branches. */
function Structure({ message }: { message: Schemas["ArgumentReply"][] }) {
  return (
    <dl className="structure" aria-label={t("checks.structure")}>
      {message.map((argument, at) => (
        <div key={at}>
          <dt>
            <bdi>{`{${argument.name}}`}</bdi> {argument.type}
          </dt>
          <dd>{argument.branches.join(" · ")}</dd>
        </div>
      ))}
    </dl>
  );
}
