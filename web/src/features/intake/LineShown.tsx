import { AssetInLine } from "../../asset/AssetShown";
import { listed, t } from "../../words/words";
import { Mark } from "../../scope/Mark";
import type { CellState } from "../../scope/scope";
import { inOrder } from "../../text/shapes";
import { DiffShown, TextShown } from "../../text/TextShown";
import { wordDiff } from "../../text/wordDiff";
import { ChoiceSwitch } from "./ChoiceSwitch";
import type { Choice, Group, Line } from "./useIntake";

interface LineProps {
  group: Group;
  line: Line;
  busy: boolean;
  onChoose?: (choice: Choice) => void;
}

/** One change: what the record says at the left, what becomes of it at the right. */
export function LineShown({ group, line, busy, onChoose }: LineProps) {
  const ofText = line.language !== undefined;
  const diff = line.before !== undefined && line.after !== undefined && !line.beforeForms && !line.afterForms;
  const rewritten = !ofText && diff;
  return (
    <>
      <div className="source">
        <div className="remark">
          <span className="key">{line.key}</span>
          {line.formerKey && <del className="key">{line.formerKey}</del>}
          {ofText && <span>{line.language}</span>}
        </div>
        {line.source && (
          <div className="words">
            <TextShown text={line.source} />
          </div>
        )}
        <Words line={line} side={ofText ? "before" : "source"} diff={rewritten ? "both" : undefined} />
        {onChoose && group.choices.length > 1 && (
          <ChoiceSwitch
            label={t("lines.one", { key: line.key })}
            choices={group.choices}
            value={line.choice}
            busy={busy}
            onChoose={onChoose}
          />
        )}
      </div>
      <div className="gutter">
        <Mark state={markOf(group, line)} />
      </div>
      <div className="becoming">
        {ofText && <Words line={line} side="after" diff={diff ? "both" : undefined} />}
        {line.against && <span className="wrong">{line.against}</span>}
        <span className={`becomes ${line.becomes ?? (line.choice === "CHANGED" ? "stale" : "soft")}`}>
          {whatHappens(group, line, onChoose === undefined)}
        </span>
      </div>
    </>
  );
}

function Words({ line, side, diff }: { line: Line; side: "before" | "after" | "source"; diff?: "both" }) {
  const forms =
    side === "before" ? line.beforeForms : (line.afterForms ?? (side === "source" ? line.beforeForms : undefined));
  const text = side === "before" ? line.before : (line.after ?? (side === "source" ? line.before : undefined));
  return (
    <div className="words" lang={side === "source" ? undefined : line.language} dir={directionOf(line.language)}>
      {forms?.file !== undefined ? (
        <AssetInLine forms={forms} facts={undefined} />
      ) : forms ? (
        inOrder(forms).map(([form, words]) => (
          <div key={form}>
            <span className="soft">{form}</span> <TextShown text={words} />
          </div>
        ))
      ) : diff ? (
        <DiffShown runs={wordDiff(line.before ?? "", line.after ?? "")} />
      ) : text ? (
        <TextShown text={text} />
      ) : (
        <span className="soft">{t("lines.nothing")}</span>
      )}
    </div>
  );
}

const RIGHT_TO_LEFT = new Set(["ar", "ckb", "dv", "fa", "he", "ps", "sd", "ug", "ur", "yi"]);

/** A text that begins with a name in Latin letters still runs as its language does. */
function directionOf(tag: string | undefined): "rtl" | "ltr" | "auto" {
  if (tag === undefined) return "auto";
  return RIGHT_TO_LEFT.has(tag.split("-")[0] ?? "") ? "rtl" : "ltr";
}

/** The state that the cell, or the texts of the entry, will show. */
function markOf(group: Group, line: Line): CellState {
  if (line.becomes) return line.becomes as CellState;
  if (line.language !== undefined) {
    if (line.choice === "CLEAR" || line.before === undefined) return "untranslated";
    return group.kind === "HIGHER_STANDING" ? "pencilled" : "settled";
  }
  return line.choice === "CHANGED" && line.stale.length > 0
    ? "stale"
    : line.stale.length > 0
      ? "settled"
      : "untranslated";
}

/** One phrase that says what the choice does to the line. */
function whatHappens(group: Group, line: Line, told: boolean): string {
  // A report tells what went stale as a whole, not line by line.
  if (told && (line.choice === "CHANGED" || line.choice === "FIX")) return t(`choice.${line.choice}`);
  if (line.becomes) return t(`becomes.${line.becomes as "settled"}`);
  if (line.language !== undefined) return t(line.choice === "CLEAR" ? "happens.cleared" : "happens.stays");
  switch (line.choice) {
    case "CHANGED":
      return line.stale.length > 0
        ? t("happens.stale", { languages: listed(line.stale), n: line.stale.length })
        : t("happens.noTexts");
    case "FIX":
      return t("happens.hold", { n: line.stale.length });
    case "TAKE":
    case "BOTH":
    case "REPLACE":
      if (group.kind === "DESCRIPTIONS" || group.kind === "DESCRIPTION_CONFLICTS") return t("happens.described");
      return `${line.choice === "REPLACE" ? `${t("happens.replaced")} ` : ""}${line.texts > 0 ? t("happens.added", { n: line.texts }) : t("happens.addedBare")}`;
    case "RENAME":
      return t("happens.renamed");
    case "REMOVE":
      return t("happens.removed");
    case "PUT_BACK":
      return t("happens.putBack");
    default:
      return t(group.choices.length > 1 ? "happens.kept" : `group.${group.kind}.words`);
  }
}
