import { Button } from "@mui/material";
import { Link } from "react-router";
import { findingSaid, type Schemas } from "../../api/client";
import { listed, percent, t, when } from "../../words/words";
import { PictureShown } from "../entry";
import { WhereShown } from "../scenes";
import type { Pending } from "../../sheet/outbox/outbox";
import { CellEditor } from "../../sheet/CellEditor";
import type { EditEnd } from "../../sheet/ending";
import type { Draft } from "../../text/draft";
import { placeholdersIn } from "../../text/guarding";
import { Mark } from "../../scope/Mark";
import { useMemory } from "../../text/memory";
import { ledgerAt } from "../../scope/scope";
import { fieldsOf, formsOf, inOneLine, mainForm, type Forms } from "../../text/shapes";
import { TermList } from "../../text/TermList";
import { DiffShown, TextShown } from "../../text/TextShown";
import type { Editor } from "../../sheet/useCellChanges";
import { useCheck } from "../../text/useCheck";
import { useResting } from "../../sheet/useResting";
import { wordDiff } from "../../text/wordDiff";
import type { Strip } from "./useReview";

/** An offer that is being amended. */
export interface Amending extends Editor {
  entry: number;
  offer: number;
  draft: Draft;
  initial: Forms;
}

interface Props {
  /** The offers for one cell, oldest first. */
  strips: Strip[];
  language: Schemas["LanguageName"];
  /** The number of the offer under the cursor, which may be elsewhere. */
  current: number | undefined;
  chosen: (index: number) => boolean;
  /** Why the last answer was refused, by offer. */
  refused: ReadonlyMap<number, string>;
  reviews: boolean;
  amending: Amending | null;
  /** One's own text for the cell that was not sent. */
  kept: Pending | undefined;
  onDrop: (strip: Strip) => void;
  onPoint: (index: number, extend: boolean) => void;
  onSettle: () => void;
  onAmend: () => void;
  onReturn: () => void;
  /** The amended text, and how the editor was left. */
  onAmended: (strip: Strip, forms: Forms, how: EditEnd) => void;
}

/** A cell: left its source and the text in force, right what is offered for it, side by side where several are. */
export function StripShown(props: Props) {
  const { strips, language, current } = props;
  const first = strips[0];
  if (!first) return null;
  const here = strips.some((strip) => strip.offer === current);
  return (
    <section className={here ? "strip here" : "strip"}>
      <SourceSide strip={first} language={language} here={here} />
      <div className="gutter" role="presentation">
        <Mark state="offered" labelled={false} />
      </div>
      <div className="rights">
        {strips.map((strip, index) => (
          <OfferSide key={strip.offer} {...props} strip={strip} index={index} />
        ))}
      </div>
    </section>
  );
}

function SourceSide({ strip, language, here }: { strip: Strip; language: Schemas["LanguageName"]; here: boolean }) {
  const { tag } = language;
  const dir = language.rightToLeft ? "rtl" : "ltr";
  const inForce = inOneLine(strip.inForce, strip.inForceForms);
  return (
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
      {here && strip.note && <p className="soft">{strip.note}</p>}
      {here && strip.reference && <p className="mono">{strip.reference}</p>}
      {here && strip.usedBy.length > 0 && (
        <p className="soft">{t("review.usedBy", { products: listed(strip.usedBy) })}</p>
      )}
      {here && strip.picture !== undefined && <PictureShown picture={strip.picture} entry={strip.key} />}
      {here && <Beside strip={strip} language={language} />}
    </div>
  );
}

/** Passing over strips asks for nothing; resting on one does. */
const REST_MS = 250;
const MOST_ALIKE = 3;

/** What the wordbook and the memory say about the source. */
function Beside({ strip, language }: { strip: Strip; language: Schemas["LanguageName"] }) {
  const resting = useResting(strip.entry, REST_MS);
  if (resting !== strip.entry) return null;
  return (
    <>
      <Terms strip={strip} language={language} />
      <Alike entry={strip.entry} language={language} />
      <WhereShown entry={strip.entry} language={language.tag} />
    </>
  );
}

function Terms({ strip, language }: { strip: Strip; language: Schemas["LanguageName"] }) {
  const check = useCheck(strip.entry, language.tag, formsOfStrip(strip), null);
  return <TermList terms={check.data?.terms ?? []} language={language.tag} />;
}

/** What was settled for similar sources. */
function Alike({ entry, language }: { entry: number; language: Schemas["LanguageName"] }) {
  const memory = useMemory(entry, language.tag);
  const hits = (memory.data ?? []).slice(0, MOST_ALIKE);
  if (hits.length === 0) return null;
  return (
    <dl className="alike" aria-label={t("review.alike")}>
      {hits.map((hit) => (
        <div key={hit.entry}>
          <dt>
            <span className="mono">{percent(hit.percent)}</span> <TextShown text={hit.source} />
          </dt>
          <dd lang={language.tag} dir={language.rightToLeft ? "rtl" : "ltr"}>
            <TextShown text={inOneLine(hit.text, hit.forms)} />
          </dd>
        </div>
      ))}
    </dl>
  );
}

function OfferSide(props: Props & { strip: Strip; index: number }) {
  const { strip, index, strips, language, reviews } = props;
  const { tag } = language;
  const dir = language.rightToLeft ? "rtl" : "ltr";
  const current = strip.offer === props.current;
  const inForce = inOneLine(strip.inForce, strip.inForceForms);
  const offered = inOneLine(strip.text, strip.forms);
  const amending = props.amending?.offer === strip.offer ? props.amending.draft : null;
  const refused = props.refused.get(strip.offer);
  const chosen = props.chosen(index);
  return (
    <article
      id={`offer-${strip.offer}`}
      className={["right", current ? "here" : "", chosen ? "chosen" : ""].filter(Boolean).join(" ")}
      tabIndex={current ? 0 : -1}
      aria-current={current || undefined}
      aria-label={t(chosen ? "review.stripChosen" : "review.strip", {
        key: strip.key,
        who: strip.author,
        text: offered,
      })}
      onMouseDown={(event) => props.onPoint(index, event.shiftKey)}
    >
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
          onEnd={(forms, how) => props.onAmended(strip, forms, how)}
        />
      ) : (
        <p lang={tag} dir={dir} className="offered">
          {inForce === "" ? <TextShown text={offered} /> : <DiffShown runs={wordDiff(inForce, offered)} />}
        </p>
      )}
      {index === 0 && props.kept && !amending && (
        <div className="kept" role="status">
          <p className="mind">{t("review.kept", { why: props.kept.sentence ?? "" })}</p>
          <p lang={tag} dir={dir}>
            <TextShown text={inOneLine(mainForm(props.kept.forms), props.kept.forms)} />
          </p>
          {props.kept.status !== "waiting" && (
            <Button size="small" onClick={() => props.onDrop(strip)}>
              {t("footnotes.dropMine")}
            </Button>
          )}
        </div>
      )}
      {strip.said && <p className="said">{t("review.said", { who: strip.author, what: strip.said })}</p>}
      {strip.byMachine && <p className="mind">{t("review.byMachine")}</p>}
      {index === 0 && strip.offers > 1 && (
        <p className="mind">
          {t(strip.offers > strips.length ? "review.severalElsewhere" : "review.several", { n: strip.offers })}
        </p>
      )}
      {strip.blockers.map((blocker, at) => (
        <p key={at} className="wrong">
          {t("review.blocked", { why: findingSaid(blocker, strip.shape !== "plain") })}
        </p>
      ))}
      {strip.warnings.map((warning, at) => (
        <p key={at} className="mind">
          {findingSaid(warning, strip.shape !== "plain")}
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
    </article>
  );
}

/** The forms that amending begins with. */
export function formsOfStrip(strip: Strip): Forms {
  return formsOf(strip.text, strip.forms);
}
