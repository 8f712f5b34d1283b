import { Button } from "@mui/material";
import { Link } from "react-router";
import type { Schemas } from "../../api/client";
import { t, when } from "../../words/words";
import { PictureShown } from "../entry/PictureShown";
import { CellEditor } from "../ledger/CellEditor";
import type { Draft } from "../ledger/draft";
import { placeholdersIn } from "../ledger/guarding";
import { Mark } from "../ledger/Mark";
import { ledgerAt } from "../ledger/scope";
import { fieldsOf, formsOf, inOneLine, type Forms } from "../ledger/shapes";
import { DiffShown, TextShown } from "../ledger/TextShown";
import { wordDiff } from "../ledger/wordDiff";
import type { Strip } from "./useReview";

interface Props {
  strip: Strip;
  language: Schemas["LanguageName"];
  current: boolean;
  chosen: boolean;
  /** Why the last answer was refused, empty for none. */
  refused: string;
  reviews: boolean;
  amending: Draft | null;
  onPoint: (extend: boolean) => void;
  onSettle: () => void;
  onAmend: () => void;
  onReturn: () => void;
  /** The amended text, or null when one leaves it. */
  onAmended: (forms: Forms | null) => void;
}

/** One offer: left its source and the text in force, right what is offered with its differences. Answers show on the current one only. */
export function StripShown(props: Props) {
  const { strip, language, current, chosen, refused, reviews, amending } = props;
  const { tag } = language;
  const dir = language.rightToLeft ? "rtl" : "ltr";
  const inForce = inOneLine(strip.inForce, strip.inForceForms);
  const offered = inOneLine(strip.text, strip.forms);
  const classes = ["strip", current ? "here" : "", chosen ? "chosen" : ""].filter((name) => name !== "");
  return (
    <article
      id={`offer-${strip.offer}`}
      className={classes.join(" ")}
      tabIndex={current ? 0 : -1}
      aria-current={current || undefined}
      aria-label={t("review.strip", { key: strip.key, who: strip.author, text: offered })}
      onMouseDown={(event) => props.onPoint(event.shiftKey)}
    >
      <div className="left">
        <p className="remark">
          <Link className="key" to={`${ledgerAt({ tables: [strip.table], languages: [tag] })}&entry=${strip.entry}`}>
            {strip.key}
          </Link>
          <span>{strip.tableName}</span>
        </p>
        <p>
          {strip.sourceThen !== undefined ? (
            <DiffShown runs={wordDiff(strip.sourceThen, strip.source)} />
          ) : (
            <TextShown text={inOneLine(strip.source, strip.sourceForms)} />
          )}
        </p>
        {strip.sourceThen !== undefined && <p className="stale">{t("review.older")}</p>}
        <p className="soft">{t(inForce === "" ? "review.nothingInForce" : "review.inForce")}</p>
        {inForce !== "" && (
          <p className="soft" lang={tag} dir={dir}>
            <TextShown text={inForce} />
          </p>
        )}
        {current && strip.note && <p className="soft">{strip.note}</p>}
        {current && strip.reference && <p className="mono">{strip.reference}</p>}
        {current && strip.picture !== undefined && <PictureShown picture={strip.picture} entry={strip.key} />}
      </div>
      <div className="gutter" role="presentation">
        <Mark state="offered" labelled={false} />
      </div>
      <div className="right">
        <p className="remark">
          <span>{t("review.by", { who: strip.author, when: when(strip.at) })}</span>
          {strip.maxLength > 0 && (
            <span className="mono">
              {[...strip.text].length} / {strip.maxLength}
            </span>
          )}
        </p>
        {amending ? (
          <CellEditor
            draft={amending}
            fields={fieldsOf(strip.shape, language, strip.sourceForms)}
            label={t("review.amending", { key: strip.key })}
            language={tag}
            rightToLeft={language.rightToLeft}
            limit={strip.maxLength}
            placeholders={placeholdersIn(strip.source).map(({ start, end }) => strip.source.slice(start, end))}
            onEnd={(forms, how) => props.onAmended(how === "put-forward" ? forms : null)}
          />
        ) : (
          <p lang={tag} dir={dir} className="offered">
            {inForce === "" ? <TextShown text={offered} /> : <DiffShown runs={wordDiff(inForce, offered)} />}
          </p>
        )}
        {strip.offers > 1 && <p className="mind">{t("review.several", { n: strip.offers })}</p>}
        {strip.blockers.map((blocker) => (
          <p key={blocker} className="wrong">
            {t("review.blocked", { why: blocker })}
          </p>
        ))}
        {strip.warnings.map((warning) => (
          <p key={warning} className="mind">
            {warning}
          </p>
        ))}
        {refused && (
          <p className="wrong" role="alert">
            {refused}
          </p>
        )}
        {current && reviews && !amending && (
          <p className="answers">
            <Button size="small" variant="contained" disabled={strip.blockers.length > 0} onClick={props.onSettle}>
              {t("footnotes.settle")} <kbd>S</kbd>
            </Button>
            <Button size="small" variant="outlined" onClick={props.onAmend}>
              {t("footnotes.amend")} <kbd>A</kbd>
            </Button>
            <Button size="small" variant="outlined" color="error" onClick={props.onReturn}>
              {t("footnotes.return")} <kbd>R</kbd>
            </Button>
          </p>
        )}
      </div>
    </article>
  );
}

/** The forms that amending begins with. */
export function formsOfStrip(strip: Strip): Forms {
  return formsOf(strip.text, strip.forms);
}
