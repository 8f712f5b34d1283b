import { Button } from "@mui/material";
import { useEffect, useRef, useState, useSyncExternalStore } from "react";
import { Link } from "react-router";
import type { Schemas } from "../../api/client";
import { languageName, t } from "../../words/words";
import { outbox } from "../../sheet/outbox/outbox";
import type { EditEnd } from "../../sheet/ending";
import { Draft } from "../../text/draft";
import { MAIN, sameForms, type Forms } from "../../text/shapes";
import { AnswerAllDialog } from "./AnswerAllDialog";
import { ReturnDialog } from "./ReturnDialog";
import { formsOfStrip, StripShown, type Amending } from "./StripShown";
import { useAnsweringAll } from "./useAnsweringAll";
import type { Answer, Looking, Strip, useReview } from "./useReview";

interface Props {
  language: Schemas["LanguageName"];
  reviews: boolean;
  looking: Looking;
  review: ReturnType<typeof useReview>;
  onSay: (sentence: string) => void;
}

/** Nearer to the end than that, more is asked for. */
const NEAR_END_STRIPS = 20;
const NEAR_END_PX = 900;

/** The strips with one offer under the cursor; the next is there as soon as one is answered. */
export function Strips({ language, reviews, looking, review, onSay }: Props) {
  const { strips, query, matching } = review;
  const [at, setAt] = useState(0);
  const [anchor, setAnchor] = useState(0);
  const [amending, setAmending] = useState<Amending | null>(null);
  const [returning, setReturning] = useState<Strip[] | "all" | null>(null);
  const [answerAll, setAnswerAll] = useState<{ answer: Answer; n: number; upTo: number } | null>(null);
  const list = useRef<HTMLDivElement>(null);
  // One who goes away in the middle of amending finds the text here again.
  const open = useRef(amending);
  useEffect(() => {
    open.current = amending;
  });
  useEffect(
    () => () => {
      const last = open.current;
      if (!last) return;
      const forms = last.draft.all();
      if (sameForms(forms, last.initial)) outbox.leaves(last.entry, language.tag, last.id);
      else outbox.keeps(last.entry, language.tag, last.id, forms, t("review.amendedKept"));
    },
    [language.tag],
  );
  const answering = useAnsweringAll(looking, () => {
    setAt(0);
    setAnchor(0);
    void review.again();
  });
  const here = Math.min(at, strips.length - 1);
  const from = Math.min(here, anchor, strips.length - 1);
  const to = Math.min(Math.max(here, anchor), strips.length - 1);
  const current = strips[here];
  const chosen = strips.slice(from, to + 1);
  const currentOffer = current?.offer;
  const busy = amending !== null || returning !== null || answerAll !== null;
  useEffect(() => {
    if (busy || currentOffer === undefined) return;
    const strip = document.getElementById(`offer-${currentOffer}`);
    strip?.focus({ preventScroll: true });
    strip?.scrollIntoView({ block: "nearest" });
  }, [currentOffer, busy]);
  const more = query.hasNextPage && !query.isFetchingNextPage;
  const { fetchNextPage } = query;
  const nearEnd = here >= strips.length - NEAR_END_STRIPS;
  useEffect(() => {
    if (more && nearEnd) void fetchNextPage();
  }, [more, nearEnd, fetchNextPage]);
  const move = (by: number, extend: boolean) => {
    const next = Math.max(0, Math.min(strips.length - 1, here + by));
    setAt(next);
    if (!extend) setAnchor(next);
  };
  const beside = (by: number) => {
    if (strips[here + by]?.entry === current?.entry) move(by, false);
  };
  const answered = () => {
    setAt(from);
    setAnchor(from);
  };
  const settle = () => {
    const clear = withoutChoices(chosen);
    const sound = clear.filter((strip) => strip.blockers.length === 0);
    if (sound.length < clear.length) onSay(t("review.blockedStay", { n: clear.length - sound.length }));
    if (sound.length === 0) return;
    const older = sound.filter((strip) => strip.sourceThen !== undefined).length;
    if (sound.length > 1 && older > 0) onSay(t("review.olderStay", { n: older }));
    answered();
    void review.answer(sound, { action: "SETTLE" });
  };
  const amend = () => {
    if (!current) return;
    const { entry, offer, version } = current;
    const seen = outbox.seen(entry, language.tag, version);
    const id = outbox.opens(entry, language.tag, seen);
    // What was typed here before and not sent is gone on with.
    const initial = keptFor(current)?.forms ?? formsOfStrip(current);
    const draft = new Draft(initial, (all) => outbox.typed(entry, language.tag, id, all));
    setAmending({ entry, offer, draft, initial, id, seen });
  };
  const unsaved = useSyncExternalStore(outbox.subscribe, () => outbox.unsaved());
  const keptFor = (strip: Strip) =>
    unsaved.find((one) => one.entry === strip.entry && one.language === language.tag)?.pending;
  const amended = (strip: Strip, forms: Forms, how: EditEnd) => {
    if (!amending) return;
    setAmending(null);
    const sends = how === "put-forward" && Object.keys(forms).length > 0;
    const same = sameForms(forms, formsOfStrip(strip));
    if (sends && !same) {
      answered();
      void review.amend(strip, strip.shape === "plain" ? { text: forms[MAIN] } : { forms }, amending);
      return;
    }
    if (same) {
      // It is what was offered, and nothing of one's own is left.
      outbox.leaves(strip.entry, language.tag, amending.id);
      outbox.drop(strip.entry, language.tag);
    } else if (Object.keys(forms).length === 0 || sameForms(forms, amending.initial)) {
      outbox.leaves(strip.entry, language.tag, amending.id);
    } else {
      // Left in any way but Enter, it is lost in none of them.
      outbox.keeps(strip.entry, language.tag, amending.id, forms, t("review.amendedKept"));
    }
    if (sends) {
      answered();
      void review.answer([strip], { action: "SETTLE" });
    }
  };
  const withoutChoices = (which: Strip[]) => {
    const several = choices(which);
    if (several.length > 0) onSay(t("review.choicesStay", { n: several.length }));
    return which.filter((strip) => !several.includes(strip));
  };
  const all = (answer: Answer) => setAnswerAll({ answer, n: matching, upTo: review.newest });
  const onKeyDown = (event: React.KeyboardEvent) => {
    // What is typed in a dialog comes here too, as its element is a child of this one to React.
    if (busy || event.altKey || !list.current?.contains(event.target as Node)) return;
    const ctrl = event.ctrlKey || event.metaKey;
    const key = event.key.toLowerCase();
    if (key === "arrowdown" || key === "arrowup") move(key === "arrowdown" ? 1 : -1, event.shiftKey);
    else if (key === "arrowleft" || key === "arrowright") beside(key === "arrowright" ? 1 : -1);
    else if (key === "home" || key === "end") move(key === "home" ? -strips.length : strips.length, event.shiftKey);
    else if (key === "escape") setAnchor(here);
    else if (ctrl && key === "a") {
      setAnchor(0);
      setAt(strips.length - 1);
    } else if (ctrl && (key === "z" || key === "y")) {
      void review.undo(key === "y" || event.shiftKey);
    } else if (ctrl || !reviews) return;
    else if (key === "s") settle();
    else if (key === "a") amend();
    else if (key === "r") setReturning(chosen);
    else return;
    event.preventDefault();
  };
  const narrowed = looking.tables.length > 0 || looking.person !== 0 || looking.days > 0 || looking.checks !== "all";
  if (strips.length === 0 && !answerAll) {
    return (
      <div className="empty">
        <h2>{t(narrowed ? "review.noneMatch" : "review.nothing")}</h2>
        {narrowed ? (
          <Button variant="outlined" component={Link} to={`/review?in=${looking.language}`}>
            {t("review.lookAtAll", { language: languageName(language) })}
          </Button>
        ) : (
          <p className="soft">{t("review.nothingWords", { language: languageName(language) })}</p>
        )}
      </div>
    );
  }
  return (
    <div
      ref={list}
      className="strips"
      onKeyDown={onKeyDown}
      onScroll={(event) => {
        const { scrollHeight, scrollTop, clientHeight } = event.currentTarget;
        if (more && scrollHeight - scrollTop - clientHeight < NEAR_END_PX) void fetchNextPage();
      }}
      role="group"
      aria-label={t("review.strips")}
    >
      <div className="head" aria-hidden="true">
        <span>{t("review.headLeft", { language: languageName(language) })}</span>
        <span>{t("review.headRight", { language: languageName(language) })}</span>
      </div>
      {chosen.length > 1 && (
        <div className="selectionbar" role="toolbar" aria-label={t("review.several.bar")}>
          <span role="status">{t("review.chosen", { n: chosen.length })}</span>
          {reviews && (
            <>
              <Button size="small" variant="contained" onClick={settle}>
                {t("review.settleAll", { n: chosen.length })}
              </Button>
              <Button size="small" variant="outlined" color="error" onClick={() => setReturning(chosen)}>
                {t("review.returnAll", { n: chosen.length })}
              </Button>
              {matching > chosen.length && (
                <>
                  <Button size="small" onClick={() => all({ action: "SETTLE" })}>
                    {t("review.all.settle", { n: matching })}
                  </Button>
                  <Button size="small" color="error" onClick={() => setReturning("all")}>
                    {t("review.all.return", { n: matching })}
                  </Button>
                </>
              )}
            </>
          )}
        </div>
      )}
      {cellsOf(strips).map(({ first, offers }) => (
        <StripShown
          key={offers[0]?.offer}
          strips={offers}
          language={language}
          current={currentOffer}
          chosen={chosen.length > 1 ? (index) => first + index >= from && first + index <= to : () => false}
          refused={review.refused}
          reviews={reviews}
          amending={amending}
          kept={offers[0] && keptFor(offers[0])}
          onDrop={(strip) => outbox.drop(strip.entry, language.tag)}
          onPoint={(index, extend) => {
            if (amending?.offer === offers[index]?.offer) return;
            setAt(first + index);
            if (!extend) setAnchor(first + index);
          }}
          onSettle={settle}
          onAmend={amend}
          onReturn={() => setReturning(chosen)}
          onAmended={amended}
        />
      ))}
      {query.isFetchingNextPage && (
        <p className="more soft" role="status">
          {t("ledger.loading")}
        </p>
      )}
      {returning && (
        <ReturnDialog
          n={returning === "all" ? matching : returning.length}
          onReturn={(reason) => {
            setReturning(null);
            if (returning === "all") {
              all({ action: "RETURN", reason });
              return;
            }
            const clear = withoutChoices(returning);
            if (clear.length === 0) return;
            answered();
            void review.answer(clear, { action: "RETURN", reason });
          }}
          onClose={() => setReturning(null)}
        />
      )}
      {answerAll && <AnswerAllDialog {...answerAll} answering={answering} onClose={() => setAnswerAll(null)} />}
    </div>
  );
}

/** The offers by cell, as they stand in the list. */
function cellsOf(strips: Strip[]): { first: number; offers: Strip[] }[] {
  const cells: { first: number; offers: Strip[] }[] = [];
  strips.forEach((strip, index) => {
    const last = cells.at(-1);
    if (last?.offers[0]?.entry === strip.entry) last.offers.push(strip);
    else cells.push({ first: index, offers: [strip] });
  });
  return cells;
}

/** Of several offers for one cell somebody has to choose one; no answer to many chooses. */
function choices(strips: Strip[]): Strip[] {
  return strips.filter((strip) => strips.some((other) => other !== strip && other.entry === strip.entry));
}
